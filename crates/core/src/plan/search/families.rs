//! Which ways there are to one dough: families by style, doses, places, and what its works take.

use super::{
    dose::UsualDose,
    dough::DoughFacts,
    hours::Minute,
    schedule::{Feed, Leg, Schedule, ScheduleFamily, Sponge, Works},
    solve::Rules,
};
use crate::{
    formula::{Analysis, Raising, Stage, StyleId, WARM_LIMIT_MIN},
    kitchen::Place,
    leaven::{LONG_COLD_DAYS, RATIOS, TWO_FEEDS_DAYS},
    oven::Bake,
    plan::{Mixing, OvenPlan, StepKind, steps::DOOR_MIN},
};

/// What the search may not vary.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Fixed {
    /// Only these families.
    pub families: Option<Vec<ScheduleFamily>>,
    /// Whether a dough with egg or milk may stand warm for more than four hours.
    pub lift_warm_limit: bool,
    /// Whether the recipe's dose is kept as it is.
    pub keep_dose: bool,
    /// Whether the leaven stands ready at an hour of its own: no feed.
    pub leaven_ready: bool,
    /// Whether it is shaped at once: one rise only.
    pub at_once: bool,
    /// Oven loads.
    pub loads: u32,
}

/// Yeast of a preferment that is added, percent of its own flour.
const SPONGE_PCTS: [f64; 4] = [0.05, 0.1, 0.2, 0.4];
/// Yeast of the recipe's own preferment, times what it says.
const OWN_SPONGE: [f64; 4] = [0.35, 0.6, 1.0, 1.7];
/// Warmest a butter dough may stand, and any other, °C.
const BUTTER_BOX_C: f64 = 28.0;
const BOX_C: f64 = 35.0;

/// What it costs to feed a leaven once that wants two feeds, so that this is done where nothing else fits. Engineering estimate.
const ONE_FEED_COST: f64 = 3.0;

/// What carrying a dough to another place costs: about half an hour of a fresher loaf. Engineering estimate.
const MOVE_COST: f64 = 0.12;

const fn wanted_flavour(style: StyleId) -> f64 {
    match style {
        StyleId::LongNoKnead => 0.75,
        StyleId::SourdoughLean => 0.7,
        StyleId::Rye => 0.6,
        StyleId::Lean | StyleId::Wholegrain | StyleId::SourdoughSoft => 0.5,
        StyleId::PanSoft | StyleId::Flat | StyleId::SodaDipped => 0.3,
        _ => 0.2,
    }
}

fn ceil(minutes: f64) -> Minute {
    #[allow(clippy::cast_possible_truncation, reason = "minutes of work")]
    let whole = (minutes - 1e-9).ceil() as Minute;
    whole
}

/// What the works of this dough take. Minutes of hands: a base, more for each kilogram and each piece.
#[must_use]
pub fn works_of(
    a: &Analysis<'_>,
    mixing: &Mixing,
    places: &[(Place, f64)],
    (warm, cold): (&OvenPlan, &OvenPlan),
    bake: &Bake,
    loads: u32,
) -> Works {
    let style = a.style.id;
    let kg = a.dough_g.likely / 1000.0;
    let pieces = a.formula.all_pieces();
    let n = f64::from(pieces);
    let hands = ceil(8.0 + 2.0 * kg + 2.5 * n);
    let rests = pieces <= 6 && !matches!(style, StyleId::Rye | StyleId::Flat);
    let first = if rests { hands / 2 } else { hands };
    let load = ceil(5.0 + 0.5 * n);
    let finish = ceil(bake.before_load_min(pieces));
    let acts = |oven: &OvenPlan| oven.acts_after(f64::from(load), DOOR_MIN).iter().map(|act| ceil(act.at_min)).collect();
    let minutes = |kind: &[StepKind]| mixing.acts.iter().filter(|act| kind.contains(&act.kind)).map(|act| act.minutes).sum::<f64>();
    let kneads = minutes(&[StepKind::Knead, StepKind::Butter]);
    let begins = ceil(minutes(&[StepKind::Bloom, StepKind::Mix]));
    let by_hand = ceil(mixing.hands_min() - minutes(&[StepKind::Bloom, StepKind::Mix]));
    Works {
        feed: 5,
        scald: a.formula.lines.iter().any(|l| l.stage == Stage::Scald).then_some((8, 60)),
        mix: begins,
        soak: ceil(minutes(&[StepKind::Soak])),
        knead: by_hand,
        shaped_at_once: a.is_shaped_at_once(),
        machine: ceil(kneads) - by_hand,
        shape: (first, if rests { 15 } else { 0 }, hands - first),
        finish: bake.coats_before(f64::from(finish)).into_iter().filter(|_| finish > 0).map(|at| (ceil(at), finish)).collect(),
        between_loads: ceil(warm.between_loads_min().max(cold.between_loads_min())),
        load,
        preheat: ceil(warm.preheat_min),
        cold: places.iter().filter(|(_, c)| OvenPlan::is_cold(*c)).map(|(place, _)| *place).collect(),
        bake: (ceil(warm.minutes), ceil(cold.minutes)),
        // A loaf that proved in a cool place bakes nearly as long as one that proved in a cold one.
        bake_late: (ceil(warm.minutes_high.max(cold.minutes_high)), ceil(cold.minutes_high)),
        acts: (acts(warm), acts(cold)),
        cool: ceil(warm.slice_min),
        loads: Minute::try_from(loads.max(1)).unwrap_or(1),
    }
}

/// Longest stays: out of the fridge a leaven or preferment, the bulk, the proof; in it the bulk, the proof. Minutes.
pub type Longest = ((Minute, Minute, Minute), (Minute, Minute));

/// How long a dough may stand at most. Common practice, no source.
#[must_use]
pub fn longest(a: &Analysis<'_>, leaven: bool, perishable: bool) -> Longest {
    let style = a.style.id;
    let bulk = if style == StyleId::LongNoKnead {
        20.0
    } else if matches!(style, StyleId::Wholegrain | StyleId::PanSoft | StyleId::Milk | StyleId::Rye | StyleId::SourdoughSoft) || is_sweet(a)
    {
        14.0
    } else if leaven {
        16.0
    } else {
        20.0
    };
    let cold = |(lean, sour, rich): (Minute, Minute, Minute)| {
        60 * if perishable {
            rich
        } else if leaven {
            sour
        } else {
            lean
        }
    };
    ((18 * 60, ceil(60.0 * bulk), if leaven { 8 * 60 } else { 5 * 60 }), (cold((72, 48, 24)), cold((24, 36, 16))))
}

/// Everything the search holds to for one dough.
#[must_use]
pub fn rules(a: &Analysis<'_>, facts: &DoughFacts, works: Works, usual: &UsualDose, fixed: &Fixed) -> Rules {
    let style = a.style.id;
    let leaven = usual.by == Some(Raising::Leaven);
    let (longest_warm, longest_cold) = longest(a, leaven, facts.perishable);
    // A dough that is left to itself is folded once at least where it is folded at all.
    let least = usize::from(style == StyleId::LongNoKnead && facts.folds.count > 0);
    Rules {
        schedules: Schedules { a, facts, usual, fixed }.all().into_iter().map(|w| w.out_before_heating(works.preheat)).collect(),
        bands: vec![(0.95, 1.05), (0.85, 0.95), (1.05, 1.15)],
        half_shape: true,
        longest_warm,
        longest_cold,
        least: (ceil(a.style.custom.bulk_least_min), ceil(a.style.custom.proof_least_min)),
        warm_limit: (facts.perishable && !fixed.lift_warm_limit).then_some(ceil(WARM_LIMIT_MIN)),
        folds: (facts.folds, least),
        wanted_flavour: wanted_flavour(style),
        early_share: if leaven { usual.pct / 100.0 } else { facts.preferment.flour_share },
        dose_parts: (usual.mixed_share, if usual.pct > 0.0 { facts.preferment.flour_share / usual.pct } else { 0.0 }),
        dose_counts: if style == StyleId::LongNoKnead {
            |family| family != ScheduleFamily::SameDay && family != ScheduleFamily::Rest
        } else {
            |family| family != ScheduleFamily::Slow && family != ScheduleFamily::Rest
        },
        move_cost: MOVE_COST,
        one_feed_cost: if leaven && facts.cold_days >= LONG_COLD_DAYS { ONE_FEED_COST } else { 0.0 },
        stales: style != StyleId::Rye,
        begun: None,
        works,
    }
}

fn is_sweet(a: &Analysis<'_>) -> bool {
    a.is_perishable() || a.sugar_pct.likely >= 4.0 || a.fat_added_pct.likely >= 4.0 || a.style.id == StyleId::SodaDipped
}

/// The families of ways to this dough in these places.
#[must_use]
pub fn families(a: &Analysis<'_>, facts: &DoughFacts, usual: &UsualDose, fixed: &Fixed) -> Vec<ScheduleFamily> {
    Schedules { a, facts, usual, fixed }.families()
}

/// Places that are not the fridge; a box only where it is wanted, and not too warm for butter.
#[must_use]
pub fn warm_places(a: &Analysis<'_>, places: &[(Place, f64)], boxes: bool) -> Vec<Place> {
    let most = if a.style.id == StyleId::Brioche || a.fat_added_pct.likely >= 20.0 { BUTTER_BOX_C } else { BOX_C };
    let fits = |p: &&(Place, f64)| match p.0 {
        Place::Fridge => false,
        Place::Room | Place::Pantry => true,
        Place::ProofBox | Place::OvenLight => boxes && p.1 <= most,
    };
    places.iter().filter(fits).map(|p| p.0).collect()
}

/// Whether bakers hold such a dough in the fridge. Common practice, no source.
#[must_use]
pub const fn may_be_cold(style: StyleId) -> bool {
    !matches!(style, StyleId::GlutenFree | StyleId::Rye)
}

struct Schedules<'a> {
    a: &'a Analysis<'a>,
    facts: &'a DoughFacts,
    usual: &'a UsualDose,
    fixed: &'a Fixed,
}

impl Schedules<'_> {
    fn has(&self, place: Place) -> bool {
        self.facts.places.iter().any(|(p, _)| *p == place)
    }

    fn warm(&self, boxes: bool) -> Vec<Place> {
        warm_places(self.a, &self.facts.places, boxes)
    }

    fn families(&self) -> Vec<ScheduleFamily> {
        use ScheduleFamily as F;
        let style = self.a.style.id;
        let cold = self.facts.fridge_chills;
        let Some(by) = self.usual.by else { return vec![F::Rest] };
        let can: Vec<ScheduleFamily> = match (by, style) {
            (_, StyleId::GlutenFree) | (Raising::Yeast, StyleId::Rye) => vec![F::SameDay],
            (Raising::Leaven, StyleId::Rye) => vec![F::LeavenOnce, F::LeavenTwice],
            (Raising::Leaven, _) => {
                let mut can = vec![F::LeavenOnce];
                if self.facts.cold_days >= TWO_FEEDS_DAYS {
                    can.push(F::LeavenTwice);
                }
                if cold {
                    can.extend([F::LeavenColdBulk, F::LeavenColdProof]);
                }
                can
            }
            (Raising::Yeast, _) => {
                // A recipe with a preferment of its own is not made without it.
                let own = self.usual.early_pct.is_some();
                let mut can = vec![if own { F::Preferment } else { F::SameDay }];
                if !own && (style == StyleId::LongNoKnead || (style != StyleId::Brioche && !is_sweet(self.a))) {
                    can.push(F::Slow);
                }
                // A preferment brings yeast of its own: the recipe's dose would not be kept.
                if !own && !matches!(style, StyleId::LongNoKnead | StyleId::Flat) && !self.fixed.keep_dose {
                    can.push(F::Preferment);
                }
                if cold {
                    can.push(F::ColdBulk);
                    if style != StyleId::Flat {
                        can.push(F::ColdProof);
                    }
                }
                can
            }
        };
        // Without a first rise there is nothing to leave long or to lay into the fridge but the shaped pieces.
        let has_bulk = |f: &F| !matches!(f, F::Slow | F::ColdBulk | F::LeavenColdBulk);
        let can = can.into_iter().filter(|f| !self.fixed.at_once || has_bulk(f));
        let wanted = |f: &ScheduleFamily| self.fixed.families.as_ref().is_none_or(|only| only.contains(f));
        can.filter(|f| wanted(f) && !(self.fixed.leaven_ready && *f == F::LeavenTwice)).collect()
    }

    /// Doses of a family as shares of the usual one, first brought to the scale's step.
    fn doses(&self, family: ScheduleFamily) -> Vec<f64> {
        use ScheduleFamily as F;
        let no_knead = self.a.style.id == StyleId::LongNoKnead;
        let Some(by) = self.usual.by else { return vec![1.0] };
        if self.fixed.keep_dose {
            return vec![1.0 / self.usual.share];
        }
        if self.usual.early_pct.is_some() {
            return self.own_doses(family);
        }
        let pct = self.usual.pct;
        let absolute = |list: &[f64]| list.iter().map(|p| p / pct).collect::<Vec<_>>();
        let shares: Vec<f64> = match family {
            F::SameDay if no_knead => absolute(&[0.4, 0.55, 0.75, 1.0]),
            F::SameDay => vec![0.6, 0.75, 1.0, 1.2, 1.4],
            F::Slow if no_knead => absolute(&[0.04, 0.056, 0.078, 0.11, 0.15, 0.21, 0.28]),
            F::Slow => absolute(&[0.03, 0.042, 0.059, 0.082, 0.115, 0.16, 0.225, 0.315]).into_iter().filter(|s| *s <= 0.5).collect(),
            F::Preferment => vec![0.3, 0.45, 0.7, 1.0],
            F::ColdBulk | F::ColdProof if no_knead => absolute(&[0.05, 0.07, 0.1, 0.14, 0.2, 0.28, 0.34]),
            F::ColdBulk | F::ColdProof if self.facts.perishable => vec![0.35, 0.5, 0.7, 1.0, 1.4],
            F::ColdBulk | F::ColdProof => vec![0.2, 0.28, 0.4, 0.56, 0.78, 1.0],
            F::LeavenOnce | F::LeavenTwice | F::LeavenColdBulk | F::LeavenColdProof => vec![0.4, 0.62, 1.0, 1.35, 1.7],
            F::Rest => vec![1.0],
        };
        let style = self.a.style;
        let (low, high) = if by == Raising::Leaven { style.leaven_flour } else { style.yeast_instant };
        let free = matches!(family, F::Slow | F::ColdBulk | F::ColdProof | F::Preferment) || (no_knead && family == F::SameDay);
        let mut doses: Vec<f64> = shares
            .into_iter()
            .filter(|s| free || high <= 0.0 || (0.6 * low - 1e-9..=1.2 * high + 1e-9).contains(&(s * pct)) || (s - 1.0).abs() < 1e-9)
            .map(|s| self.usual.on_scale(s))
            // No more yeast than bakers take, unless the recipe says so itself.
            .filter(|s| by == Raising::Leaven || s * pct <= style.custom.dose_most_pct + 1e-9 || (s * self.usual.share - 1.0).abs() < 0.02)
            // More leaven than there is flour or water in the dough for cannot be weighed.
            .filter(|s| *s > 0.0 && self.a.dosed(s * self.usual.share).is_ok())
            .collect();
        doses.dedup_by(|a, b| (*a - *b).abs() < 1e-9);
        doses
    }

    /// Of a recipe with its own preferment: of what goes in at the mix, which may be nothing.
    fn own_doses(&self, family: ScheduleFamily) -> Vec<f64> {
        let shares: &[f64] = match family {
            _ if self.usual.mixed_share <= 0.0 => &[1.0],
            ScheduleFamily::Preferment => &[0.5, 0.7, 1.0, 1.4],
            _ => &[0.5, 1.0],
        };
        let mut doses: Vec<f64> = shares.iter().map(|s| self.usual.on_scale(*s)).filter(|s| *s > 0.0).collect();
        doses.dedup_by(|a, b| (*a - *b).abs() < 1e-9);
        doses
    }

    /// Preferments of a family: the recipe's own with more or less of its yeast, or one that is added.
    fn sponges(&self, family: ScheduleFamily, rooms: &[Place]) -> Vec<Option<Sponge>> {
        let pcts: Vec<f64> = match self.usual.early_pct {
            // Where yeast goes in at the mix too, that alone is varied for the fridge: ways enough.
            Some(own) if self.fixed.keep_dose || (family != ScheduleFamily::Preferment && self.usual.mixed_share > 0.0) => vec![own],
            Some(own) => OWN_SPONGE.iter().map(|x| x * own).collect(),
            None if family == ScheduleFamily::Preferment => SPONGE_PCTS.to_vec(),
            None => return vec![None],
        };
        rooms.iter().flat_map(|p| pcts.iter().map(|pct| Some(Sponge { pct: *pct, place: *p }))).collect()
    }

    fn all(&self) -> Vec<Schedule> {
        let (low, high) = self.a.style.dough_c;
        // No warmer than its water makes it, no colder than ice.
        let (coldest, warmest) = self.facts.reach_c;
        let within = |c: f64| c.clamp(18.0, 30.0).min(warmest).max(coldest).clamp(10.0, 40.0);
        let (low, high) = (within(low), within(high));
        let mut schedules = Vec::new();
        for family in self.families() {
            let temps: &[f64] = match family {
                ScheduleFamily::Slow => &[low],
                ScheduleFamily::Preferment
                | ScheduleFamily::LeavenTwice
                | ScheduleFamily::LeavenColdBulk
                | ScheduleFamily::LeavenColdProof => &[high],
                ScheduleFamily::Rest => &[f64::midpoint(low, high)],
                _ if high - low < 0.5 => &[high],
                _ => &[low, high],
            };
            for dose in self.doses(family) {
                for mix_c in temps {
                    self.of(family, dose, *mix_c, &mut schedules);
                }
            }
        }
        schedules
    }

    /// The one rise of a dough that is shaped at once, or of a batter: in a warm place, or in the fridge over night.
    fn only_rise(&self, family: ScheduleFamily, warm: &[Place]) -> Vec<(Vec<Leg>, Vec<Leg>)> {
        match family {
            ScheduleFamily::ColdProof | ScheduleFamily::LeavenColdProof => [0, 45, 90]
                .map(|room: Minute| {
                    let first = (room > 0).then_some(Leg::fixed(Place::Room, room));
                    (Vec::new(), first.into_iter().chain([Leg::open(Place::Fridge)]).collect())
                })
                .into(),
            _ => warm.iter().map(|p| (Vec::new(), vec![Leg::open(*p)])).collect(),
        }
    }

    fn of(&self, family: ScheduleFamily, dose: f64, mix_c: f64, schedules: &mut Vec<Schedule>) {
        use ScheduleFamily as F;
        let once = self.fixed.at_once || self.a.style.id == StyleId::GlutenFree;
        let (all, rooms) = (self.warm(true), self.warm(false));
        let open = |p: &Place| vec![Leg::open(*p)];
        let pairs = |first: &[Place], second: &[Place]| -> Vec<(Vec<Leg>, Vec<Leg>)> {
            first.iter().flat_map(|b| second.iter().map(|p| (open(b), open(p)))).collect()
        };
        let leaven = family.is_leaven();
        let rises: Vec<(Vec<Leg>, Vec<Leg>)> = match family {
            F::Rest => vec![(Vec::new(), open(&Place::Room))],
            _ if once => self.only_rise(family, &all),
            // A place too cool gets no dough ripe in a day.
            F::SameDay => {
                let cool = |p: &&Place| self.facts.places.iter().any(|(x, c)| x == *p && *c < self.a.style.custom.coldest_place_c);
                let near: Vec<Place> = all.iter().filter(|p| !cool(p)).copied().collect();
                pairs(&near, &near)
            }
            // From a warm box nobody carries a slow dough into the cold again.
            F::LeavenOnce => {
                pairs(&rooms, &all).into_iter().chain(all.iter().filter(|p| !rooms.contains(p)).map(|p| (open(p), open(p)))).collect()
            }
            F::Slow => pairs(&rooms, &all),
            // A preferment or a fed leaven multiplies the ways: both rises in one place, or the proof in the box.
            F::Preferment | F::LeavenTwice => all
                .iter()
                .flat_map(|b| all.iter().filter(move |p| *p == b || **p == Place::ProofBox).map(move |p| (*b, *p)))
                .map(|(b, p)| (open(&b), open(&p)))
                .collect(),
            F::ColdBulk | F::LeavenColdBulk => {
                let first: &[Minute] = if leaven { &[60, 120, 180, 240, 300] } else { &[0, 30, 60, 90, 120] };
                let mut rises = Vec::new();
                for room in first {
                    for after in [0, 60] {
                        let legs = [
                            (*room > 0).then_some(Leg::fixed(Place::Room, *room)),
                            Some(Leg::open(Place::Fridge)),
                            (after > 0).then_some(Leg::fixed(Place::Room, after)),
                        ];
                        let near = all.iter().filter(|p| !leaven || **p != Place::Pantry);
                        rises.extend(near.map(|p| (legs.into_iter().flatten().collect(), open(p))));
                    }
                }
                rises
            }
            F::ColdProof | F::LeavenColdProof => {
                let legs = |room: Minute| {
                    let first = (room > 0).then_some(Leg::fixed(Place::Room, room));
                    first.into_iter().chain([Leg::open(Place::Fridge)]).collect::<Vec<_>>()
                };
                all.iter().flat_map(|b| [0, 45].map(|room| (open(b), legs(room)))).collect()
            }
        };
        let feeds: Vec<Vec<Feed>> = if leaven && !self.fixed.leaven_ready { self.feeds(family, &all) } else { vec![Vec::new()] };
        let sponges = self.sponges(family, &rooms);
        for feed in &feeds {
            for sponge in &sponges {
                for (bulk, proof) in &rises {
                    schedules.push(Schedule {
                        family,
                        feeds: feed.clone(),
                        sponge: *sponge,
                        bulk: bulk.clone(),
                        proof: proof.clone(),
                        dose,
                        mix_c,
                    });
                }
            }
        }
    }

    fn feeds(&self, family: ScheduleFamily, places: &[Place]) -> Vec<Vec<Feed>> {
        let box_or_room = if self.has(Place::ProofBox) { Place::ProofBox } else { Place::Room };
        match family {
            ScheduleFamily::LeavenTwice => [(5.0, 1.0), (5.0, 2.0), (10.0, 1.0), (10.0, 2.0)]
                .into_iter()
                .flat_map(|(a, b)| {
                    [Place::Room, box_or_room].map(|p| vec![Feed { ratio: a, place: Place::Room }, Feed { ratio: b, place: p }])
                })
                .collect(),
            ScheduleFamily::LeavenOnce => {
                let of = |p: &Place| RATIOS.map(|ratio| vec![Feed { ratio, place: *p }]);
                places.iter().flat_map(of).collect()
            }
            _ => {
                let near: Vec<Place> = places.iter().copied().filter(|p| matches!(p, Place::Room | Place::Pantry)).collect();
                near.iter().flat_map(|p| RATIOS.map(|ratio| vec![Feed { ratio, place: *p }])).collect()
            }
        }
    }
}
