//! The demo kitchen, all invented: Skerry Light, a lighthouse cottage on a small island. Laid out
//! round the moment it starts, so that something is always rising.

use cerealis_core::{
    Tables,
    bake::EventBody,
    formula::{Formula, FormulaDraft, PiecesBody},
    kitchen::{Hours, HoursKind, HouseOven, Kitchen, Night, Place},
    leaven::{JarBody, JarEventBody},
    oven::Dial,
    pantry::{OwnIngredient, OwnPan},
    plan::{Plan, PlanAsk, RisePlan, StepKind, later},
    reader::{Choices, read},
};
use cerealis_store::{Database, SqliteConnection, StoreError, bakes, formulas, kitchen, leavens, shelf};
use jiff::Timestamp;

struct Bread {
    id: &'static str,
    name: &'static str,
    text: &'static str,
    pieces: (f64, f64, &'static str, &'static str),
    pan: Option<&'static str>,
    tags: &'static [&'static str],
    note: &'static str,
}

const BREADS: [Bread; 4] = [
    Bread {
        id: "skerry-loaf",
        name: "Skerry loaf",
        text: "Skerry loaf\n420 g strong white flour\n60 g wholemeal flour\n330 g water\n100 g ripe leaven (100 % hydration)\n10 g fine salt\n\nMethod\nFold three times in the first two hours.\nMakes 1 loaf.\nBake at 230 C for 40 minutes on the hot stone.",
        pieces: (1.0, 900.0, "batard", "stone"),
        pan: None,
        tags: &["everyday", "leaven"],
        note: "A little wetter since the new sack of flour.",
    },
    Bread {
        id: "watch-rolls",
        name: "Watch rolls",
        text: "Watch rolls\n500 g bread flour\n280 g milk\n40 g butter\n25 g sugar\n9 g fine salt\n5 g instant yeast\n1 medium egg\n1 egg, beaten, for the glaze\n\nMethod\nKnead 12 minutes. Rise until doubled.\nMakes 12 rolls.\nPreheat the oven.\nBake at 195 C for 14-16 minutes.",
        pieces: (12.0, 74.0, "ball", "sheet"),
        pan: None,
        tags: &["rolls", "night watch"],
        note: "",
    },
    Bread {
        id: "lantern-plait",
        name: "Lantern plait",
        text: "Lantern plait\n500 g bread flour\n190 g water\n2 large eggs\n45 g sunflower oil\n50 g sugar\n9 g fine salt\n6 g instant yeast\n1 egg, beaten, for brushing\n\nMethod\nKnead 10 minutes. Rise until doubled.\nMakes 2 plaits.\nPreheat the oven.\nBake at 180 C for 25-30 minutes.",
        pieces: (2.0, 450.0, "braid", "sheet"),
        pan: None,
        tags: &["sunday"],
        note: "",
    },
    Bread {
        id: "boat-tin",
        name: "Boat-morning tin",
        text: "Boat-morning tin\n400 g bread flour\n100 g wholemeal flour\n340 g water\n20 g butter\n15 g honey\n10 g fine salt\n4 g instant yeast\n\nMethod\nKnead 10 minutes. Rise until doubled.\nMakes 1 loaf.\nPreheat the oven.\nBake at 200 C for 35 minutes.",
        pieces: (1.0, 880.0, "pan", "pan-metal"),
        pan: Some("loaf-uk-2lb"),
        tags: &["everyday", "boat mornings"],
        note: "Out of the oven by 07:20 or it misses the boat.",
    },
];

fn unreadable(e: &dyn std::fmt::Display) -> StoreError {
    StoreError::Unreadable(e.to_string())
}

/// What a kilogram costs on the supply boat.
const PRICES: [(&str, f64); 7] = [
    ("wheat-bread", 1.3),
    ("wheat-whole", 1.5),
    ("rye-medium", 1.7),
    ("salt-fine", 0.6),
    ("butter-unsalted", 9.5),
    ("milk-whole", 1.2),
    ("yeast-instant", 14.0),
];

/// What the keeper has of her own: the flour of the next island, the lamp room's tin.
fn own_things(c: &mut SqliteConnection) -> Result<(), StoreError> {
    let flour = OwnIngredient {
        name: "Grey Holm flour".into(),
        also: vec!["holm flour".into()],
        like: "wheat-whole".into(),
        protein_pct: Some(12.4),
        absorption_points: Some(7.0),
        source: "the sack".into(),
        ..OwnIngredient::default()
    };
    let tin = OwnPan { name: "Lamp room tin".into(), shape: "loaf".into(), volume_ml: Some(1400.0), ..OwnPan::default() };
    shelf::put_ingredient(c, &flour.id(), &flour)?;
    shelf::put_pan(c, &tin.id(), &tin)
}

/// The keeper's leavens: one for bread, one of rye that has been forgotten in the fridge.
fn jars(c: &mut SqliteConnection, now: Timestamp) -> Result<(), StoreError> {
    let jar = |name: &str, flour: &str, hydration_pct: f64| JarBody {
        name: name.into(),
        flour_mix: std::iter::once((flour.to_owned(), 100.0)).collect(),
        hydration_pct,
    };
    leavens::add(c, "foghorn", &jar("Foghorn", "plain-white", 100.0), later(now, -40.0 * 1440.0))?;
    leavens::add(c, "old-bell", &jar("Old Bell", "light-rye", 100.0), later(now, -30.0 * 1440.0))?;
    let mut log = |id: &str, before_h: f64, body: JarEventBody| -> Result<(), StoreError> {
        let event = JarEventBody { at: Some(later(now, -60.0 * before_h).to_string()), ..body }.check(now).map_err(|e| unreadable(&e))?;
        leavens::append(c, id, &event, None).map(drop)
    };
    let fed = |seed: f64, each: f64, place: &str| JarEventBody {
        kind: "fed".into(),
        seed: Some(seed),
        water: Some(each),
        flour: Some(each),
        what: Some(place.into()),
        ..JarEventBody::default()
    };
    let value = |kind: &str, value: f64| JarEventBody { kind: kind.into(), value: Some(value), ..JarEventBody::default() };
    let to = |place: &str| JarEventBody { kind: "moved".into(), what: Some(place.into()), ..JarEventBody::default() };
    log("old-bell", 24.0 * 12.0, fed(20.0, 60.0, "room"))?;
    log("old-bell", 24.0 * 12.0 - 3.0, to("fridge"))?;
    for (before, seed, each, place) in [(143.0, 30.0, 60.0, "pantry"), (119.0, 30.0, 60.0, "oven-light"), (96.0, 20.0, 100.0, "room")] {
        log("foghorn", before, fed(seed, each, place))?;
        log("foghorn", before - 14.0, value("used", 100.0))?;
    }
    log("foghorn", 93.0, to("fridge"))?;
    log("foghorn", 51.0, fed(25.0, 50.0, "room"))?;
    log("foghorn", 30.0, fed(15.0, 75.0, "pantry"))?;
    log("foghorn", 5.3, fed(40.0, 80.0, "room"))?;
    log("foghorn", 3.6, value("level", 1.05))?;
    log("foghorn", 1.6, value("level", 1.3))?;
    log("foghorn", 0.2, value("level", 2.0))
}

/// The light's watches, the keeper's sleep, the boat.
fn hours() -> Vec<Hours> {
    let of = |name: &str, kind, days: &[u8], from: &str, to: &str| Hours {
        name: name.into(),
        kind,
        days: days.to_vec(),
        date: None,
        from: from.into(),
        to: to.into(),
    };
    vec![
        of("asleep", HoursKind::Asleep, &[0, 1, 2, 3, 4, 5, 6], "22:30", "04:30"),
        of("on watch", HoursKind::Away, &[0, 2, 4], "19:00", "21:00"),
        of("lamp to clean", HoursKind::Busy, &[1, 3], "09:00", "11:00"),
        of("supply boat", HoursKind::Errand, &[2, 5], "07:40", ""),
    ]
}

fn skerry() -> Kitchen {
    Kitchen {
        name: "Skerry Light".into(),
        zone: "Europe/London".into(),
        locale: "en-GB".into(),
        altitude_m: 12.0,
        latitude: Some(57.2),
        longitude: Some(-7.9),
        room_c: 19.5,
        pantry_c: Some(14.0),
        fridge_c: Some(5.0),
        proof_box_c: None,
        oven_light_c: Some(28.0),
        night: Some(Night { from: "22:30".into(), to: "05:30".into(), room_c: 17.0, pantry_c: 12.5 }),
        flour_c: 17.5,
        tap_c: 11.0,
        oven: HouseOven { name: "the old oven".into(), offset_c: Some(-5.0), hot_k: Some(12.0), ..HouseOven::default() },
        other_ovens: vec![HouseOven { name: "the keeper's range".into(), dial: Dial::Gas, ..HouseOven::default() }],
        mixer: "hand".into(),
        currency: "sh".into(),
        hours: hours(),
        prices: PRICES.iter().map(|(id, price)| ((*id).to_owned(), *price)).collect(),
        ..Kitchen::default()
    }
}

fn formula(bread: &Bread, t: &Tables) -> Result<Formula, StoreError> {
    let choices = Choices { locale: "en-GB".into(), ..Choices::default() };
    let reading = read(bread.text, &choices, &[], t).map_err(|e| unreadable(&e))?;
    let mut draft = FormulaDraft::from(reading.formula.body());
    draft.name = Some(bread.name.into());
    let (count, piece_g, shape, vessel) = bread.pieces;
    draft.pieces = Some(PiecesBody {
        piece_g: Some(piece_g),
        shape: Some(shape.into()),
        vessel: Some(vessel.into()),
        pan: bread.pan.map(str::to_owned),
        ..PiecesBody::of(count)
    });
    draft.tags = bread.tags.iter().map(|t| (*t).to_owned()).collect();
    draft.note = Some(bread.note.to_owned()).filter(|n| !n.is_empty());
    draft.check(&t.pantry).map_err(|e| unreadable(&e))
}

/// Fills an empty household: four formulas, three finished bakes, one running.
///
/// # Errors
/// If the book cannot be written.
pub fn lay_out(db: &Database, t: &Tables, now: Timestamp) -> Result<(), StoreError> {
    let mut c = db.connection()?;
    let k = skerry();
    kitchen::put(&mut c, &k)?;
    own_things(&mut c)?;
    jars(&mut c, now)?;
    let mut all = Vec::new();
    for bread in &BREADS {
        let f = formula(bread, t)?;
        let a = f.analyse(&t.pantry, &t.styles);
        let beside = formulas::Beside { style: a.style.id.word().into(), flour_g: a.flour_g.likely, now: later(now, -9.0 * 1440.0) };
        if bread.id == "skerry-loaf" {
            // What it was before: a stiffer dough.
            let mut before = f.clone();
            before.note = Some("From the old card.".into());
            for line in before.lines.iter_mut().filter(|l| l.ingredient.id == "water") {
                line.grams = cerealis_core::measure::Band::exact(line.grams.likely - 20.0);
            }
            formulas::save(&mut c, bread.id, &before.body(), &formulas::Beside { now: later(now, -30.0 * 1440.0), ..beside.clone() })?;
        }
        formulas::save(&mut c, bread.id, &f.body(), &beside)?;
        all.push(f);
    }
    let [skerry, rolls, plait, tin] = all.as_slice() else { return Ok(()) };
    let day = 1440.0;
    let past = [
        Past {
            id: "demo-1",
            formula: skerry,
            begun: -6.0 * day - 90.0,
            bulk: Place::OvenLight,
            proof: Place::Pantry,
            drift: [6.0, -18.0, -12.0, 0.0],
            dough_c: 26.5,
            core: 97.0,
            oven_off: Some(-6.0),
            colour: "brown",
            rating: 4.0,
            fault: Some("uneven"),
            next: "Turn it at half time, the left side runs hot",
        },
        Past {
            id: "demo-2",
            formula: tin,
            begun: -4.0 * day + 60.0,
            bulk: Place::Room,
            proof: Place::Room,
            drift: [0.0, 4.0, 2.0, -1.0],
            dough_c: 25.0,
            core: 93.0,
            oven_off: None,
            colour: "golden",
            rating: 5.0,
            fault: None,
            next: "Nothing; same again",
        },
        Past {
            id: "demo-3",
            formula: plait,
            begun: -2.0 * day - 200.0,
            bulk: Place::Room,
            proof: Place::Room,
            drift: [12.0, 40.0, 45.0, 2.0],
            dough_c: 23.0,
            core: 90.0,
            oven_off: Some(-4.0),
            colour: "brown",
            rating: 3.0,
            fault: Some("tight-crumb"),
            next: "Warmer water: the dough came out at 23, not 25",
        },
    ];
    for p in &past {
        p.write(&mut c, &k, now, t)?;
    }
    running(&mut c, rolls, &k, now, t)
}

struct Past<'a> {
    id: &'static str,
    formula: &'a Formula,
    begun: f64,
    bulk: Place,
    proof: Place,
    /// Minutes off the plan at mixing, shaping, loading, taking out.
    drift: [f64; 4],
    dough_c: f64,
    core: f64,
    /// What the oven thermometer showed against the setting, K.
    oven_off: Option<f64>,
    colour: &'static str,
    rating: f64,
    fault: Option<&'static str>,
    next: &'static str,
}

fn begin(c: &mut SqliteConnection, id: &str, f: &Formula, ask: &PlanAsk, k: &Kitchen, t: &Tables) -> Result<Plan, StoreError> {
    let plan = Plan::make(f, ask, k, t).map_err(|e| unreadable(&e))?;
    let style = f.analyse(&t.pantry, &t.styles).style.id.word().to_owned();
    let bake = bakes::Kept {
        id: id.into(),
        name: f.name.clone().unwrap_or_default(),
        style,
        formula: f.body(),
        plan: plan.clone(),
        made: later(ask.start, -20.0),
        day: None,
    };
    bakes::begin(c, &bake)?;
    Ok(plan)
}

struct Log<'a> {
    c: &'a mut SqliteConnection,
    id: &'a str,
    now: Timestamp,
}

impl Log<'_> {
    fn add(&mut self, at: Timestamp, body: EventBody) -> Result<(), StoreError> {
        let body = EventBody { at: Some(at.to_string()), ..body };
        let event = body.check(self.now).map_err(|e| unreadable(&e))?;
        bakes::append(self.c, self.id, &event, None).map(drop)
    }
    fn act(&mut self, at: Timestamp, kind: &str, value: Option<f64>) -> Result<(), StoreError> {
        self.add(at, EventBody { kind: kind.into(), value, ..EventBody::default() })
    }
}

impl Past<'_> {
    fn write(&self, c: &mut SqliteConnection, k: &Kitchen, now: Timestamp, t: &Tables) -> Result<(), StoreError> {
        let start = cerealis_core::plan::round_up(later(now, self.begun), 15);
        let mut ask = PlanAsk::usual(self.formula, k, start, t);
        let at = |place: Place, usual: RisePlan| RisePlan { place, place_c: k.place_c(place).unwrap_or(usual.place_c), ..usual };
        ask.bulk = ask.bulk.map(|b| at(self.bulk, b));
        ask.proof = at(self.proof, ask.proof);
        let plan = begin(c, self.id, self.formula, &ask, k, t)?;
        let when = |kind: StepKind, drift: f64| plan.step(kind).map_or(start, |s| later(s.start, drift));
        let [mixed, shaped, loaded, out] = self.drift;
        let mixed_at = later(later(start, ask.mix_min), mixed);
        let mut log = Log { c, id: self.id, now };
        log.act(mixed_at, "mixed", None)?;
        log.add(
            later(mixed_at, 2.0),
            EventBody { kind: "temperature".into(), value: Some(self.dough_c), stage: Some("dough".into()), ..EventBody::default() },
        )?;
        log.act(when(StepKind::Shape, shaped), "shaped", None)?;
        log.act(when(StepKind::OvenOn, loaded), "oven-on", Some(plan.oven.set_c))?;
        log.act(when(StepKind::Load, loaded), "loaded", Some(plan.oven.set_c))?;
        let out_at = when(StepKind::Out, loaded + out);
        if let Some(off) = self.oven_off {
            let read = EventBody {
                kind: "temperature".into(),
                value: Some(plan.oven.set_c + off),
                stage: Some("oven".into()),
                ..EventBody::default()
            };
            log.add(when(StepKind::Load, loaded - 5.0), read)?;
        }
        log.act(later(out_at, -2.0), "core", Some(self.core))?;
        log.act(out_at, "out", None)?;
        log.add(later(out_at, 3.0), EventBody { kind: "colour".into(), what: Some(self.colour.into()), ..EventBody::default() })?;
        log.act(when(StepKind::Ready, loaded + 10.0), "sliced", None)?;
        log.act(when(StepKind::Ready, loaded + 40.0), "rating", Some(self.rating))?;
        if let Some(fault) = self.fault {
            log.add(
                when(StepKind::Ready, loaded + 41.0),
                EventBody { kind: "fault".into(), what: Some(fault.into()), ..EventBody::default() },
            )?;
        }
        log.add(
            when(StepKind::Ready, loaded + 42.0),
            EventBody { kind: "note".into(), what: Some("next-time".into()), note: Some(self.next.into()), ..EventBody::default() },
        )
    }
}

/// The rolls that are rising: mixed an hour and a half ago, for the evening watch.
fn running(c: &mut SqliteConnection, f: &Formula, k: &Kitchen, now: Timestamp, t: &Tables) -> Result<(), StoreError> {
    let start = cerealis_core::plan::round_up(later(now, -110.0), 5);
    let ask = PlanAsk::usual(f, k, start, t);
    begin(c, "demo-4", f, &ask, k, t)?;
    let mixed = later(start, ask.mix_min + 4.0);
    let mut log = Log { c, id: "demo-4", now };
    for (i, line) in f.lines.iter().enumerate() {
        let body =
            EventBody { kind: "weighed".into(), value: Some(line.grams.likely), line: u32::try_from(i).ok(), ..EventBody::default() };
        log.add(later(start, f64::from(u32::try_from(i).unwrap_or(0))), body)?;
    }
    log.act(mixed, "mixed", None)?;
    log.add(
        later(mixed, 1.0),
        EventBody { kind: "temperature".into(), value: Some(25.5), stage: Some("dough".into()), ..EventBody::default() },
    )
}
