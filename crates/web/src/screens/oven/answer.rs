//! The answer of the oven: what to set, when to look, and why this setting and not another.

use cerealis_core::{
    Tables,
    findings::{Change, Finding},
    measure::{Quantity, Temperature, degrees, length, marked, setting, show, to_nearest, weight},
    oven::{
        Advice, Agreement, Bake, Dial, FAN_K, Kind, Meets, SettingRow, Status, advise, agreement, air, at_settings, cautions, colour_word,
        crossing, done_sign, film, find, near,
    },
};

use super::{
    super::{FindingView, worked_out},
    asked::Query,
};
use crate::draw::{Act, BakeChart, BakeFrame, CrossingChart, CrossingFrame, Cut, Outline, Section, Slab, bake_chart, crossing_chart};

pub(super) struct EventRow {
    pub(super) minute: String,
    pub(super) title: &'static str,
    pub(super) symbol: &'static str,
    pub(super) words: String,
    pub(super) sign: &'static str,
}

/// A setting beside the one advised.
pub(super) struct SettingView {
    pub(super) dial: String,
    pub(super) minutes: String,
    pub(super) colour: &'static str,
    pub(super) words: &'static str,
    pub(super) chosen: bool,
    pub(super) warned: bool,
}

/// A moment of the film.
pub(super) struct FrameView {
    pub(super) minute: String,
    pub(super) core: Quantity,
    pub(super) surface: Quantity,
    pub(super) colour: &'static str,
    pub(super) section: Section,
}

/// The film of the inside.
pub(super) struct FilmView {
    /// The moment shown first: the middle still raw, the crust well on.
    pub(super) first: usize,
    pub(super) last: usize,
    pub(super) frames: Vec<FrameView>,
    /// Class, words.
    pub(super) warmths: Vec<(usize, String)>,
    pub(super) five_cm: String,
    pub(super) size: String,
}

pub(super) struct AnswerView {
    pub(super) set: String,
    pub(super) unit: &'static str,
    pub(super) dial_words: &'static str,
    pub(super) beside: String,
    pub(super) minutes: String,
    pub(super) minutes_by: &'static str,
    pub(super) sign: &'static str,
    pub(super) baked: String,
    pub(super) core: Quantity,
    pub(super) loss: String,
    pub(super) preheat: String,
    pub(super) why: String,
    pub(super) events: Vec<EventRow>,
    pub(super) practice: Vec<(String, String)>,
    pub(super) practice_words: String,
    pub(super) colour_index: String,
    pub(super) wide: BakeChart,
    pub(super) narrow: BakeChart,
    pub(super) cross: CrossingChart,
    pub(super) crossing_words: String,
    pub(super) settings: Vec<SettingView>,
    pub(super) film: Option<FilmView>,
    pub(super) findings: Vec<FindingView>,
    pub(super) cautions: Vec<&'static str>,
    pub(super) working: Vec<(String, String, String)>,
}

pub(super) fn span(low: Option<f64>, high: Option<f64>) -> String {
    low.zip(high).map_or_else(|| "not done".to_owned(), |(l, h)| format!("{}–{}", show(l, 0), show(h, 0)))
}

/// The link that takes the setting a finding offers instead.
fn set_instead(f: &Finding, q: &Query, dial: Dial) -> Option<(String, String)> {
    f.remedies.iter().find_map(|r| {
        let set_c = r.changes.iter().find_map(|c| if let Change::Oven { set_c, .. } = c { Some(*set_c) } else { None })?;
        let mut other = q.clone();
        other.p.insert("set_c".to_owned(), format!("{} C", show(set_c, 0)));
        Some((format!("Set {}", dial.told(set_c)), other.address("")))
    })
}

/// How many moments the film has.
const FRAMES: u32 = 16;

/// The row's words often end with its setting, which stands beside them already.
pub(super) fn without_setting(what: &str) -> String {
    marked(what.rsplit_once(", ").filter(|(_, end)| end.ends_with(" C")).map_or(what, |(w, _)| w))
}

/// Minutes of a bake of practice.
pub(super) fn practised(minutes: (f64, f64)) -> String {
    if (minutes.0 - minutes.1).abs() < 0.5 { show(minutes.0, 0) } else { span(Some(minutes.0), Some(minutes.1)) }
}

const fn why(a: &Advice, as_wished: bool, covered: bool) -> &'static str {
    match (a.meets, a.status) {
        (Some(Meets::Crosses), _) if as_wished => "At this setting the crust is as wished when the middle is done.",
        (Some(Meets::Crosses), _) => "At this setting the crust is within a shade of your wish when the middle is done.",
        (Some(Meets::ColourAheadAtCoolest), _) if covered => {
            "Even at the coolest setting bakers use, the crust runs ahead of the middle. Leave the lid on longer, or make smaller pieces."
        }
        (Some(Meets::ColourAheadAtCoolest), _) => {
            "Even at the coolest setting bakers use, the crust runs ahead of the middle. Lay foil over it, or make smaller pieces."
        }
        (Some(Meets::ColourBehindAtHottest), _) => {
            "Even at the hottest setting bakers use, the middle is done before the crust has its colour. A glaze helps, or take it paler."
        }
        (None, Status::Together) => "Core and crust meet at this setting.",
        (None, Status::ColourFirst) => "At this setting the crust is darker than you wish before the middle is done.",
        (None, Status::CoreFirst) => "The middle is done first: stay for colour.",
        (None, Status::StaysPale) => "It stays pale at this setting.",
        (None, Status::NotDone) => "The middle is not done at this setting.",
    }
}

/// Act of the oven: its kind, title, mark, word under the chart, sign.
const TITLES: [(&str, &str, &str, &str, &str); 11] = [
    ("preheat-from", "Heat the oven", "heat", "preheat", "the thermometer stops climbing"),
    ("load", "Load", "bake", "load", "a dent comes back slowly"),
    ("steam-off", "Let the steam out", "steam", "steam", "lifted, begins to colour"),
    ("lid-off", "Lid off", "lid", "lid off", "risen, pale, dry on top"),
    ("dial", "Turn the dial", "heat", "dial", "the crust has the colour of straw"),
    ("turn", "Turn it", "turn", "turn", "one side ahead of the other"),
    ("foil", "Foil, if golden already", "foil", "foil?", "ridges golden, valleys still pale: leave it off"),
    ("check", "Look, probe", "check", "check", "near its core temperature"),
    ("dry", "Let it dry in the oven", "wait", "dry", "the crust crackles and is dry"),
    ("done", "Out, onto a rack", "slice", "out", "colour in the cuts too; a hollow knock"),
    ("slice-from", "Slice from here", "slice", "slice", "base at room temperature"),
];

/// When it is out, from and to.
fn out_span(a: &Advice) -> String {
    span(a.out_range().map(|r| r.0), a.out_range().map(|r| r.1))
}

fn events(a: &Advice, dial: Dial, done: &'static str) -> Vec<EventRow> {
    let row = |e: cerealis_core::oven::BakeEvent| {
        TITLES.iter().find(|t| t.0 == e.kind).map(|(kind, title, symbol, _, sign)| EventRow {
            minute: match *kind {
                "done" => out_span(a),
                _ if e.at_min < 0.0 => format!("−{}", show(-e.at_min, 0)),
                _ => show(e.at_min, 0),
            },
            title,
            symbol,
            sign: if *kind == "done" { done } else { sign },
            words: match *kind {
                "preheat-from" => format!("to {}", dial.told(a.set_c)),
                "dial" => e.set_c.map_or_else(String::new, |c| format!("to {}", dial.told(c))),
                "dry" => a.drying.map_or_else(String::new, |d| d.words().to_owned()),
                "check" => format!("{} is done", degrees(a.core_target_c).to(0)),
                _ => String::new(),
            },
        })
    };
    a.events().into_iter().filter_map(row).collect()
}

fn frame(bake: &Bake, a: &Advice, t: &Tables, (words, scale): (String, Temperature)) -> BakeFrame {
    let mut colours: Vec<(f64, &'static str)> = Vec::new();
    for row in &a.curve {
        if colours.last().is_none_or(|c| c.1 != row.colour) {
            colours.push((row.min, row.colour));
        }
    }
    let acts = a.events().into_iter().filter_map(|e| {
        let (kind, _, symbol, label, _) = TITLES.iter().find(|t| t.0 == e.kind)?;
        (*kind != "slice-from").then_some(Act { min: e.at_min, symbol, label })
    });
    BakeFrame {
        air: air(bake, a, &t.oven),
        crust: a.curve.iter().map(|r| (r.min, r.surface_c)).collect(),
        core: a.curve.iter().map(|r| (r.min, r.core_c)).collect(),
        done_c: a.core_target_c,
        out: a.out_range(),
        colours,
        acts: acts.collect(),
        scale,
        words,
    }
}

fn settings(rows: &[SettingRow], a: &Advice, dial: Dial) -> Vec<SettingView> {
    rows.iter()
        .map(|r| {
            let first = r.status == Status::ColourFirst;
            SettingView {
                dial: dial.told(r.set_c),
                minutes: span(r.minutes_low, r.minutes_high),
                colour: r.colour,
                words: match r.colour {
                    "raw" | "pale" => "pale, dry inside if it stays for colour",
                    "burnt" if first => "burnt before the core is done",
                    "dark" if first => "dark before the core is done",
                    other => other,
                },
                chosen: (r.set_c - a.set_c).abs() < 1e-6,
                warned: first,
            }
        })
        .collect()
}

fn film_view(bake: &Bake, a: &Advice, t: &Tables) -> Option<FilmView> {
    let minutes = a.minutes?;
    let f = film(bake, a.set_c, minutes, FRAMES, &t.oven);
    let g = f.geometry;
    let outline = match g.kind {
        Kind::Dome | Kind::Bar => Outline::Dome,
        Kind::Box | Kind::Cup | Kind::Batch => Outline::Tin,
        Kind::Disc => Outline::Flat,
    };
    let slab = Slab::new(Cut { outline, width_cm: 100.0 * g.width, height_cm: 100.0 * g.height, middle: g.middle }, 320.0, 170.0);
    // The last moment at which the middle is still raw tells most.
    let raw = f.frames.iter().rposition(|m| m.cooler_within.get(2).is_some_and(|s| *s > 0.3)).unwrap_or(0);
    Some(FilmView {
        first: raw,
        last: f.frames.len().saturating_sub(1),
        warmths: f
            .isotherms
            .iter()
            .enumerate()
            .map(|(i, w)| (i, format!("under {}: {}", degrees(w.celsius).to(0).short(), until(i, w.what))))
            .collect(),
        five_cm: slab.pixels(5.0),
        size: format!("about {} wide, {} high when baked", length((100.0 * g.width).round()), length((100.0 * g.height).round())),
        frames: f
            .frames
            .iter()
            .map(|m| FrameView {
                minute: show(m.min, 0),
                core: degrees(m.core_c).to(0).short(),
                surface: degrees(m.surface_c).to(0).short(),
                colour: colour_word(m.index),
                section: slab.at(&m.cooler_within),
            })
            .collect(),
    })
}

/// What a dough that is not yet so warm is like.
const fn until(i: usize, what: &'static str) -> &'static str {
    match i {
        0 => "raw dough, still rising",
        1 => "the last push, then the yeast dies",
        2 => "raw: the starch has not set",
        3 => "set, not yet done",
        4 => "done crumb; above it dries to crust",
        _ => what,
    }
}

/// The answer for a bake; where a tap for the other setting stands above it, the findings offer none of their own.
pub(super) fn answer(bake: &Bake, q: &Query, (dial, scale, tapped): (Dial, Temperature, bool), t: &Tables) -> AnswerView {
    let k = &t.oven;
    let a = &advise(bake, k);
    let near = near(bake, a.set_c, k);
    let (agrees, minutes) = (agreement(a, &near), out_span(a));
    let practice_words = match agrees {
        Agreement::Unknown if near.is_empty() => "No like bread on record.".to_owned(),
        Agreement::Beyond => {
            format!("They bake it well outside our {minutes} min: look at their minutes too, and go by the core.")
        }
        Agreement::Strays => {
            "More than 15 % from the model's likeliest minute: look early and late, and trust the core above all.".to_owned()
        }
        Agreement::Unknown | Agreement::Agrees => String::new(),
    };
    let cross = crossing(bake, k);
    let wished = bake.colour().word();
    let words = format!(
        "Core done at {}, about {} min; crust {} by then; out after {minutes} min at {}.",
        degrees(a.core_target_c).to(0).short(),
        a.minutes.map_or_else(|| "no".to_owned(), |m| show(m, 0)),
        colour_word(a.colour_index),
        dial.told(a.set_c)
    );
    let crossing_words = cross.meet.map_or_else(
        || format!("Core and a {wished} crust do not meet at any setting bakers use."),
        |(c, min)| {
            format!("Where they meet, near {}, the core is done as the crust turns {wished}: about {} min.", dial.told(c), show(min, 0))
        },
    );
    // Habit is often hotter, and the colour has a band: why the dial is not at the meeting itself.
    let habit =
        cross.meet.filter(|(c, _)| (c - a.set_c).abs() > 10.0 && a.meets == Some(Meets::Crosses)).map_or_else(String::new, |(c, _)| {
            let way = if a.set_c > c { "hotter" } else { "cooler" };
            format!(
                " Bakers usually go {way}, and at {} the crust is still {} when the core is done.",
                dial.told(a.set_c),
                colour_word(a.colour_index)
            )
        });
    let crossing_words = crossing_words + &habit;
    let cross_frame = CrossingFrame {
        core: cross.rows.iter().filter_map(|r| r.core.map(|s| (r.set_c, s))).collect(),
        colour: cross.rows.iter().filter_map(|r| r.colour.map(|s| (r.set_c, s))).collect(),
        meet: cross.meet,
        set_c: a.set_c,
        wish: wished,
        dial: cross
            .rows
            .iter()
            .map(|r| (r.set_c, if dial == Dial::Gas { dial.figure(r.set_c) } else { format!("{}°", dial.figure(r.set_c)) }))
            .collect(),
        words: crossing_words.clone(),
    };
    let f = frame(bake, a, t, (words, scale));
    let other = match dial {
        Dial::Celsius => Dial::Fahrenheit,
        Dial::Fahrenheit | Dial::Gas => Dial::Celsius,
    };
    let heat =
        if bake.fan { "with its fan".to_owned() } else { format!("top and bottom heat; with a fan about {}", dial.told(a.set_c - FAN_K)) };
    let holds = bake
        .oven_offset_c
        .filter(|o| o.abs() >= 1.0)
        .map_or_else(String::new, |o| format!(" Your oven then holds about {}.", setting(to_nearest(a.set_c + o, 5.0))));
    AnswerView {
        set: dial.figure(a.set_c),
        unit: if dial == Dial::Gas { "" } else { dial.title() },
        dial_words: if dial == Dial::Gas { "Set the dial to gas mark" } else { "Set the dial to" },
        beside: format!("{heat}. {} on another dial.{holds}", other.told(a.set_c)),
        minutes_by: "four bakes out of five; trust the sign and the core more than the clock",
        sign: done_sign(bake),
        baked: weight(bake.piece_g * (1.0 - a.loss_pct / 100.0)).to_string(),
        minutes,
        core: degrees(a.core_target_c).to(0),
        loss: show(a.loss_pct, 0),
        preheat: a.heats_min().map_or_else(|| "more than two hours".into(), |m| format!("{} min", show(m, 0))),
        why: why(a, colour_word(a.colour_index) == wished, bake.covered()).into(),
        events: events(a, dial, done_sign(bake)),
        practice: near
            .iter()
            .map(|n| (without_setting(&n.what), format!("{} min at {}", practised(n.minutes), dial.told(n.set_c))))
            .collect(),
        practice_words,
        colour_index: show(a.colour_index, 2),
        wide: bake_chart(&f, 700, 340),
        narrow: bake_chart(&f, 358, 300),
        cross: crossing_chart(&cross_frame, 470, 300),
        crossing_words,
        settings: settings(&at_settings(bake, (-1..=2).map(|i| a.set_c + 20.0 * f64::from(i)), k), a, dial),
        film: film_view(bake, a, t),
        findings: find(bake, a, k)
            .iter()
            .map(|f| FindingView { link: set_instead(f, q, dial).filter(|_| !tapped), remedies: Vec::new(), ..FindingView::new(f) })
            .collect(),
        cautions: cautions(bake, a.steam_min > 0.0),
        working: worked_out(&a.working()),
    }
}
