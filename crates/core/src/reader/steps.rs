//! Steps: what is done, with its times, settings and pieces, and the words it was told in.

use super::{
    event::{Event, What},
    lexicon::{Act, Holder, Role},
    scan::Scan,
    stated::Stated,
};
use crate::{measure::Band, oven::Shape};

/// What a step tells first.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize)]
#[serde(rename_all = "kebab-case")]
#[allow(missing_docs, reason = "the names say it")]
pub enum StepKind {
    Oven,
    Time,
    Pieces,
    Other,
}

/// One step: at most one oven setting and one time.
#[derive(Debug, Clone, PartialEq)]
pub struct Step {
    /// The words, as written.
    pub text: String,
    /// Line of the text, from 0.
    pub source_line: usize,
    /// First byte in the text, and the one behind the last.
    pub span: (usize, usize),
    /// Verb it turns on, lower case.
    pub verb: String,
    /// Oven setting in °C, as read; nothing where it is refused.
    pub oven_c: Option<f64>,
    /// The oven told in a word, °C.
    pub oven_band: Option<Band>,
    /// The statements of that setting: one, or two scales side by side.
    pub stated: Vec<Stated>,
    /// Whether the lid is on, where that is told.
    pub lid: Option<bool>,
    /// Whether the oven is told to be off.
    pub off: bool,
    /// Whether its door is told to stand ajar.
    pub ajar: bool,
    /// What the dough stands in or on, where that is told.
    pub holder: Option<Holder>,
    /// Whether the pieces lie so close that they grow together, where that is told.
    pub touching: Option<bool>,
    /// Whether a lid is laid on, by its own word: what is covered may lie under a cloth or foil.
    pub lidded: bool,
    /// Coats, where it is brushed more than once.
    pub coats: Option<u32>,
    /// Whether a risen dough is knocked back.
    pub knocked_back: bool,
    /// Core temperature told, °C.
    pub core_c: Option<f64>,
    /// Temperature of a liquid or place told, °C.
    pub liquid_c: Option<f64>,
    /// Minutes.
    pub minutes: Option<Band>,
    /// Pieces.
    pub pieces: Option<u32>,
    /// Grams of one.
    pub piece_g: Option<f64>,
    /// Shape, if a word for one stands there.
    pub shape: Option<Shape>,
    /// Strands one piece is woven from.
    pub strands: Option<u32>,
}

impl Step {
    /// The first that fits: oven, time, pieces, other.
    #[must_use]
    pub const fn kind(&self) -> StepKind {
        if self.oven_c.is_some() {
            StepKind::Oven
        } else if self.minutes.is_some() {
            StepKind::Time
        } else if self.pieces.is_some() || self.piece_g.is_some() {
            StepKind::Pieces
        } else {
            StepKind::Other
        }
    }
    /// Whether it is about baking.
    #[must_use]
    pub fn bakes(&self) -> bool {
        self.verb == "bake"
    }
    /// Whether it tells the oven, by figure or word.
    #[must_use]
    pub const fn tells_oven(&self) -> bool {
        !self.stated.is_empty() || self.oven_c.is_some()
    }
    fn is_told(&self) -> bool {
        self.minutes.is_some() || self.tells_oven() || self.pieces.is_some() || self.core_c.is_some()
    }
}

/// Longest time that is taken for a bake when nothing says what it is, minutes.
const LONGEST_BAKE: f64 = 240.0;

struct Build<'s, 'a, 't> {
    scan: &'s Scan<'a>,
    text: &'t str,
    to: usize,
    line: usize,
    /// First token of the step being built.
    from: usize,
    /// Clause of the last event.
    clause: usize,
    then: bool,
    /// The verb is that of the step before, told once for both: `knead 5 min slow, 5 min fast`.
    carried: bool,
    /// Behind the last setting.
    stated_end: Option<usize>,
    step: Step,
    done: Vec<Step>,
}

/// The steps of a sentence from its events; tokens `from` to `to` are its words.
pub(super) fn steps(scan: &Scan<'_>, text: &str, events: &[Event<'_>], from: usize, to: usize, line: usize) -> Vec<Step> {
    let mut b =
        Build { scan, text, to, line, from, clause: 0, then: false, carried: false, stated_end: None, step: blank(line), done: Vec::new() };
    for (k, e) in events.iter().enumerate() {
        let followed = events.get(k + 1).is_some_and(|n| matches!(n.what, What::Minutes(_)));
        b.event(e, followed);
        b.clause = e.clause;
    }
    b.close(to);
    b.done
}

const fn blank(source_line: usize) -> Step {
    Step {
        text: String::new(),
        source_line,
        span: (0, 0),
        verb: String::new(),
        oven_c: None,
        oven_band: None,
        stated: Vec::new(),
        lid: None,
        off: false,
        ajar: false,
        holder: None,
        touching: None,
        lidded: false,
        coats: None,
        knocked_back: false,
        core_c: None,
        liquid_c: None,
        minutes: None,
        pieces: None,
        piece_g: None,
        shape: None,
        strands: None,
    }
}

const fn verb(act: Act) -> &'static str {
    match act {
        Act::Mix => "mix",
        Act::Knead => "knead",
        Act::Rest => "rest",
        Act::Rise => "rise",
        Act::Fold => "fold",
        Act::Shape => "shape",
        Act::Bake => "bake",
        Act::Heat => "heat",
        Act::Finish => "brush",
        Act::Boil => "boil",
        Act::Cool => "cool",
        Act::Feed => "feed",
    }
}

impl Build<'_, '_, '_> {
    /// Ends the step before the token `to` and begins another there.
    fn close(&mut self, to: usize) {
        let mut end = to;
        // What joins two steps belongs to neither.
        while end > self.from && self.scan.tok(end - 1).is_some_and(|t| t.is(',') || t.is('-') || t.is('/')) {
            end -= 1;
        }
        let holder = self.holder(end);
        let touching = self.said(end, |r| if let Role::Touching(t) = r { Some(t) } else { None });
        let coats = self.said(end, |r| if let Role::Coat(n) = r { Some(n) } else { None }).filter(|_| self.step.verb == verb(Act::Finish));
        let lidded = self.said(end, |r| matches!(r, Role::TinLid).then_some(())).is_some();
        let knocked_back = self.said(end, |r| matches!(r, Role::KnockBack).then_some(())).is_some();
        let step = Step { holder, touching, lidded, coats, knocked_back, ..std::mem::replace(&mut self.step, blank(self.line)) };
        let source = self.scan.source(self.text, self.from, end);
        if source.is_empty() {
            return;
        }
        let start = self.scan.tok(self.from).map_or(0, |t| t.start);
        self.done.push(Step { text: source.to_owned(), span: (start, start + source.len()), ..step });
        self.from = to;
        self.carried = false;
    }

    /// Begins the next phase of the same bake, in the same words.
    fn phase(&mut self) {
        let (oven_c, band, verb) = (self.step.oven_c, self.step.oven_band, self.step.verb.clone());
        let from = self.from;
        self.close(self.to);
        self.from = from;
        self.step.verb = verb;
        (self.step.oven_c, self.step.oven_band) = (oven_c, band);
    }

    fn event(&mut self, e: &Event<'_>, time_follows: bool) {
        let fresh = e.clause != self.clause || self.then;
        match &e.what {
            What::Verb(act) => self.verb(*act, e),
            What::Setting(stated) => self.setting(*stated, e, time_follows, fresh),
            What::OvenBand(band) => self.band(*band, fresh),
            What::Minutes(minutes) => self.minutes(*minutes, fresh),
            What::Lid(on) => self.lid(*on, fresh),
            What::Drying { off } => self.drying(*off, time_follows),
            What::Core(c) => self.step.core_c = Some(*c),
            What::Warmth(c) => self.step.liquid_c = self.step.liquid_c.or(Some(*c)),
            What::Pieces(p) => {
                if self.step.pieces.is_some() && p.count.is_some() {
                    return;
                }
                self.step.pieces = self.step.pieces.or(p.count);
                self.step.piece_g = self.step.piece_g.or(p.piece_g);
                self.step.shape = self.step.shape.or(p.shape);
                self.step.strands = self.step.strands.or(p.strands);
            }
            What::Then => {
                self.then = true;
                return;
            }
            // What cooks in a pan on the stove is in no oven.
            What::Holder
                if self.step.verb == "bake" && !self.step.tells_oven() && self.scan.role(e.at, Role::Holder(Holder::Skillet)).is_some() =>
            {
                "boil".clone_into(&mut self.step.verb);
            }
            What::Line(_)
            | What::Nameless { .. }
            | What::Holder
            | What::Oven
            | What::Head(_)
            | What::Bare(_)
            | What::Take
            | What::Total
            | What::Passed
            | What::Unreadable => {}
        }
        self.then = false;
    }

    fn verb(&mut self, act: Act, e: &Event<'_>) {
        let bakes = self.step.verb == "bake" || act == Act::Bake;
        // `bake 20 min, turn half way`: what is done while it bakes is part of the bake.
        let same = self.step.verb == "bake" && act != Act::Bake && self.step.tells_oven();
        if self.step.is_told()
            && e.clause != self.clause
            && !same
            && !(act == Act::Bake && self.step.tells_oven() && self.step.minutes.is_none())
        {
            self.close(e.at);
        }
        if self.step.verb.is_empty()
            || self.carried
            || (act == Act::Bake && bakes)
            || (matches!(act, Act::Rise | Act::Knead) && self.step.minutes.is_none() && !bakes)
        {
            verb(act).clone_into(&mut self.step.verb);
            self.carried = false;
        }
    }

    fn setting(&mut self, stated: Stated, e: &Event<'_>, time_follows: bool, fresh: bool) {
        // Two scales side by side are one setting; after a time comes the next phase.
        let beside = self.stated_end.is_some_and(|end| e.at <= end + 1) && !self.then;
        let next_phase = !beside && !self.step.stated.is_empty() && (self.step.minutes.is_some() || self.then)
            || self.step.oven_band.is_some() && self.step.minutes.is_some();
        let of_bake = self.step.minutes.is_none_or(|m| m.likely <= LONGEST_BAKE)
            && !matches!(self.step.verb.as_str(), "rise" | "knead" | "rest" | "mix" | "fold");
        let joined = !fresh || self.then || !time_follows;
        if next_phase {
            self.phase();
            self.step.stated.clear();
        } else if self.step.stated.is_empty() && self.step.minutes.is_some() && !(of_bake && joined && !(time_follows && fresh)) {
            self.close(e.at);
        }
        if self.step.stated.is_empty() || self.step.oven_c.is_none() || self.step.stated.iter().all(|s| s.fan) && !stated.fan {
            self.step.oven_c = stated.read.set_c;
        }
        self.step.oven_band = None;
        self.step.stated.push(stated);
        self.stated_end = Some(e.end);
        // `prove, 220 C 15 mins`: what is timed at a setting is the bake.
        let named = !matches!(self.step.verb.as_str(), "bake" | "heat");
        if self.step.verb.is_empty() || (named && time_follows) {
            "bake".clone_into(&mut self.step.verb);
        }
    }

    fn band(&mut self, band: Band, fresh: bool) {
        let goes_on = self.step.stated.is_empty() || self.step.minutes.is_some() && fresh;
        if !goes_on {
            return;
        }
        if self.step.tells_oven() && self.step.minutes.is_some() {
            self.phase();
            self.step.stated.clear();
        }
        self.step.oven_band = Some(band);
        self.step.oven_c = Some(band.likely);
    }

    fn minutes(&mut self, minutes: Band, fresh: bool) {
        if self.step.minutes.is_none() {
            self.step.minutes = Some(minutes);
            return;
        }
        if self.step.tells_oven() && minutes.likely <= LONGEST_BAKE {
            // `rest at 220 for 20, 25 more`: the next phase at the same setting
            self.phase();
            self.step.stated.clear();
            self.step.minutes = Some(minutes);
        } else if fresh || self.step.minutes != Some(minutes) {
            self.phase();
            (self.step.oven_c, self.step.oven_band) = (None, None);
            self.step.minutes = Some(minutes);
            self.carried = true;
        }
    }

    /// What a word says of it, wherever in the step it stands.
    fn said<R>(&self, to: usize, pick: impl Fn(Role) -> Option<R>) -> Option<R> {
        (self.from..to).find_map(|i| self.scan.pick(i, &pick).map(|(found, _)| found))
    }

    /// What the dough goes into or onto, said anywhere in the step: the pot, stone or steel first, else the last named.
    fn holder(&self, to: usize) -> Option<Holder> {
        let all: Vec<Holder> = (self.from..to).filter_map(|i| self.holder_at(i)).collect();
        all.iter().find(|h| matches!(h, Holder::Pot | Holder::Stone | Holder::Steel)).or(all.last()).copied()
    }

    /// A `pan of boiling water` holds no dough.
    fn holder_at(&self, at: usize) -> Option<Holder> {
        let (holder, end) = self.scan.pick(at, |r| if let Role::Holder(h) = r { Some(h) } else { None })?;
        let of = self.scan.role(end, Role::Of).is_some() || self.scan.word(end, "with") || self.scan.word(end, "upside");
        let into = |i: usize| self.scan.role(i, Role::Into).is_some() || self.scan.role(i, Role::Stop).is_some();
        // `greased 9x13-inch pan`: its size stands between.
        let goes_in = self.scan.back(at, 9).any(into);
        (!of && (goes_in || matches!(holder, Holder::Pot | Holder::Stone | Holder::Steel))).then_some(holder)
    }

    fn drying(&mut self, off: bool, time_follows: bool) {
        if time_follows && self.step.minutes.is_some() {
            self.phase();
            self.step.stated.clear();
        }
        self.step.off |= off;
        self.step.ajar |= !off;
    }

    fn lid(&mut self, on: bool, fresh: bool) {
        let taken = self.step.minutes.is_some() && (fresh || self.step.lid.is_some());
        if taken && (self.step.tells_oven() || self.step.verb == "bake") {
            self.phase();
            self.step.stated.clear();
            self.step.minutes = None;
        }
        self.step.lid = self.step.lid.filter(|_| !taken).or(Some(on));
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{
        Tables,
        reader::{Choices, read},
    };

    fn all(text: &str) -> Vec<Step> {
        let tables = Tables::built_in().unwrap();
        read(&format!("500 g flour\n\nMethod\n{text}"), &Choices::default(), &[], &tables).unwrap().steps
    }

    fn one(text: &str) -> Step {
        all(text).into_iter().next().unwrap_or_else(|| panic!("no step: {text}"))
    }

    #[test]
    fn settings_times_and_pieces_are_found() {
        let s = one("Bake at 230 C for 30-35 minutes.");
        assert_eq!((s.oven_c, s.minutes, s.kind()), (Some(230.0), Some(Band::new(30.0, 32.5, 35.0)), StepKind::Oven));
        assert_eq!(one("bake at 350 till golden").oven_c.map(f64::round), Some(177.0));
        assert_eq!(one("Preheat the oven to 180 °C / 350 °F").stated.len(), 2);
        assert_eq!(one("Preheat to gas mark 6.").oven_c, Some(200.0));
        assert_eq!(one("Knead for 10 minutes").minutes, Some(Band::exact(10.0)));
        assert_eq!(one("Let rise 1 1/2 hours until doubled").minutes, Some(Band::exact(90.0)));
        assert_eq!(one("Rest for 1 h 30 min").minutes, Some(Band::exact(90.0)));
        let s = one("Divide into 12 pieces of 75 g each and shape into rolls");
        assert_eq!((s.pieces, s.piece_g), (Some(12), Some(75.0)));
        assert_eq!(one("Makes 6 baps of 130 oz").pieces, Some(6));
        assert_eq!(one("Makes 2 loaves").pieces, Some(2));
        assert_eq!(one("Dissolve the yeast in water at 40 C").liquid_c, Some(40.0));
        assert_eq!(one("Bake until 96 C inside").core_c, Some(96.0));
        assert_eq!(one("Fold 4 times every 30 minutes").pieces, None);
        assert_eq!(one("Makes 12").pieces, Some(12));
        assert_eq!(one("Place in a greased 9x13-inch pan").pieces, None);
        assert_eq!(one("Press it into a tin of 20 x 10 cm").pieces, None);
        assert_eq!(one("Make 2 x 450 g loaves").pieces, Some(2));
        for (text, minutes) in [
            ("Rise 1h30", 90.0),
            ("Leave it an hour and a half", 90.0),
            ("Bake for a quarter of an hour", 15.0),
            ("Rest half an hour", 30.0),
            ("Cuocere per 35 minuti", 35.0),
        ] {
            assert_eq!(one(text).minutes, Some(Band::exact(minutes)), "{text}");
        }
    }

    /// Every way of telling phases that we know: setting, minutes, lid of each.
    #[test]
    fn the_phases_of_a_bake_are_all_kept() {
        type Phase = (f64, f64, Option<bool>);
        let cases: &[(&str, &[Phase])] = &[
            ("Bake at 220 for 15 min then at 190 for 25 min", &[(220.0, 15.0, None), (190.0, 25.0, None)]),
            ("250C lid on 20, 230 lid off 20", &[(250.0, 20.0, Some(true)), (230.0, 20.0, Some(false))]),
            ("230/20 then 210/25", &[(230.0, 20.0, None), (210.0, 25.0, None)]),
            ("250 lid on 25 lid off 15", &[(250.0, 25.0, Some(true)), (250.0, 15.0, Some(false))]),
            ("240C for 15, drop to 200C for 40", &[(240.0, 15.0, None), (200.0, 40.0, None)]),
            ("Piec 15 minut w 230°C, potem 40 minut w 200°C", &[(230.0, 15.0, None), (200.0, 40.0, None)]),
            ("Bei 250 °C anbacken, nach 10 Min. auf 210 °C fallend, noch 35 Min.", &[(250.0, 10.0, None), (210.0, 35.0, None)]),
            ("Bake 230 C covered 30 minutes, then uncovered 15 minutes more", &[(230.0, 30.0, Some(true)), (230.0, 15.0, Some(false))]),
            (
                "Bake covered at 250 C for 20 min. Remove the lid, lower to 220 and bake 25 min",
                &[(250.0, 20.0, Some(true)), (220.0, 25.0, Some(false))],
            ),
            (
                "Bake 20 min at 250 C with the lid on, then 25 min at 220 C with the lid off",
                &[(250.0, 20.0, Some(true)), (220.0, 25.0, Some(false))],
            ),
            ("15 min at 220 then 180 for 20", &[(220.0, 15.0, None), (180.0, 20.0, None)]),
        ];
        for (text, wanted) in cases {
            let got: Vec<Phase> = all(text).iter().filter_map(|s| Some((s.oven_c?.round(), s.minutes?.likely, s.lid))).collect();
            assert_eq!(&got, wanted, "{text}");
        }
        assert_eq!(all("Knead 10 min. Let rise 1 hour. Bake at 200 C for 1.5 h.").len(), 3);
    }

    /// What dries in the oven after the bake, and what the dough goes into: words that were not chosen with the rows in hand.
    #[test]
    fn the_dying_oven_and_the_vessel_are_read() {
        let read = |text: &str| {
            let tables = Tables::built_in().unwrap();
            read(&format!("500 g flour\n320 g water\n\nMethod\n{text}"), &Choices::default(), &[], &tables).unwrap().formula
        };
        for (text, minutes, off, ajar) in [
            ("Bake at 230 C for 40 min. Turn the oven off and leave it in there for 10 minutes with the door ajar.", 10.0, true, true),
            ("Bake at 230 C for 40 min, then 5 min with the door open a crack.", 5.0, false, true),
            ("Bei 230 °C 40 Min. backen. Ofen ausschalten, noch 10 Minuten im Ofen lassen.", 10.0, true, false),
            ("Bake 40 min at 230 C, then leave for 15 minutes in the switched-off oven.", 15.0, true, false),
        ] {
            let f = read(text);
            let last = f.phases.last().unwrap_or_else(|| panic!("no phases: {text}"));
            assert_eq!((last.minutes, last.off, last.ajar), (Some((minutes, minutes)), off, ajar), "{text}");
            assert_eq!(f.oven.unwrap().minutes, Some((40.0, 40.0)), "what dries is no part of the bake: {text}");
        }
        // An oven that is off before the bake warms a rise.
        let f = read("Let rise in the switched-off oven for 1 hour. Bake at 220 C for 30 min.");
        assert_eq!((f.phases.len(), f.oven.unwrap().minutes), (0, Some((30.0, 30.0))));
        use crate::oven::Vessel as V;
        for (text, vessel) in [
            ("Preheat the oven to 250 C with a dutch oven inside. Lower the loaf into the pot, lid on 25, lid off 15.", Some(V::Pot)),
            ("Divide into 2 loaves. Lay them in greased loaf tins. Bake at 200 C for 35 min.", Some(V::PanMetal)),
            ("Divide into 12 rolls and set on a baking sheet. Bake at 220 C for 15 min.", Some(V::Sheet)),
            ("Heat the oven to 250 C with the stone inside. Shape into 1 ball. Bake 40 min.", Some(V::Stone)),
            ("Divide into 8 rolls. Put a pan of boiling water in the oven. Bake at 220 C for 15 min.", None),
            ("Mix in a large bowl. Shape into 1 ball. Bake at 220 C for 45 min.", None),
        ] {
            assert_eq!(read(text).pieces.and_then(|p| p.vessel), vessel, "{text}");
        }
    }
}
