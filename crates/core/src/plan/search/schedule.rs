//! Schedules to a bread: which stages stand where, and how hands, eyes and oven are taken by each piece of work.

use serde::{Deserialize, Serialize};

use super::hours::{Minute, Need, Seg};
use crate::kitchen::Place;

words! {
    /// A truly different way to the same bread, in the order in which they are tried.
    #[derive(PartialOrd, Ord)]
    ScheduleFamily {
        SameDay "same-day" "All in a day",
        Slow "slow" "Overnight on the counter",
        Preferment "preferment" "A preferment first",
        ColdBulk "cold-bulk" "The dough in the fridge",
        ColdProof "cold-proof" "Shaped, in the fridge",
        LeavenOnce "leaven-once" "Leaven, all warm",
        LeavenTwice "leaven-twice" "Leaven fed twice",
        LeavenColdBulk "leaven-cold-bulk" "Leaven, dough in the fridge",
        LeavenColdProof "leaven-cold-proof" "Leaven, loaf in the fridge",
        Rest "rest" "Without yeast",
    }
}

impl ScheduleFamily {
    /// Whether a leaven is fed for it.
    #[must_use]
    pub const fn is_leaven(self) -> bool {
        matches!(self, Self::LeavenOnce | Self::LeavenTwice | Self::LeavenColdBulk | Self::LeavenColdProof)
    }
    /// Whether it stands in the fridge.
    #[must_use]
    pub const fn is_cold(self) -> bool {
        matches!(self, Self::ColdBulk | Self::ColdProof | Self::LeavenColdBulk | Self::LeavenColdProof)
    }
}

/// A rise that is planned.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[allow(missing_docs, reason = "the names say it")]
pub enum RiseOf {
    Leaven,
    Preferment,
    Bulk,
    Proof,
}

/// A place a dough stands in during a rise; the one without minutes is as long as it takes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Leg {
    /// Where.
    pub place: Place,
    /// How long; `None` for the elastic one.
    pub minutes: Option<Minute>,
}

impl Leg {
    /// As long as it takes.
    #[must_use]
    pub const fn open(place: Place) -> Self {
        Self { place, minutes: None }
    }
    /// So long.
    #[must_use]
    pub const fn fixed(place: Place, minutes: Minute) -> Self {
        Self { place, minutes: Some(minutes) }
    }
}

/// A feed of the leaven: parts of water and of flour to one of seed, and where it ripens.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Feed {
    /// Parts.
    pub ratio: f64,
    /// Where.
    pub place: Place,
}

/// A preferment with baker's yeast: percent instant on its own flour, and where it ripens.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Sponge {
    /// Percent.
    pub pct: f64,
    /// Where.
    pub place: Place,
}

/// One way: what ripens where.
#[derive(Debug, Clone, PartialEq)]
pub struct Schedule {
    /// Of which family.
    pub family: ScheduleFamily,
    /// Feeds before the mix.
    pub feeds: Vec<Feed>,
    /// Preferment before the mix.
    pub sponge: Option<Sponge>,
    /// First rise; empty where there is none.
    pub bulk: Vec<Leg>,
    /// Second rise.
    pub proof: Vec<Leg>,
    /// Share of the recipe's usual dose.
    pub dose: f64,
    /// Dough temperature when mixed, °C.
    pub mix_c: f64,
}

impl Schedule {
    /// The same way with nothing in an oven that heats: a proof in it ends so many minutes before the load, and
    /// stands in the room from there.
    #[must_use]
    pub fn out_before_heating(mut self, preheat: Minute) -> Self {
        if let Some(last) = self.proof.last().copied().filter(|l| l.place == Place::OvenLight) {
            let out = Leg::fixed(Place::Room, preheat + MOVE_MIN);
            match last.minutes {
                None => self.proof.push(out),
                Some(stay) if stay > out.minutes.unwrap_or(0) => {
                    self.proof.pop();
                    self.proof.extend([Leg::fixed(last.place, stay - preheat - MOVE_MIN), out]);
                }
                // Too short a stay to be worth the carrying.
                Some(stay) => {
                    self.proof.pop();
                    self.proof.push(Leg::fixed(Place::Room, stay));
                }
            }
        }
        self
    }

    /// Whether any leg stands in the fridge.
    #[must_use]
    pub fn in_fridge(&self) -> bool {
        self.bulk.iter().chain(&self.proof).any(|l| l.place == Place::Fridge)
    }
    /// Whether anything of it ever stands in a place: a leaven, a preferment or the dough.
    #[must_use]
    pub fn is_ever_in(&self, place: Place) -> bool {
        let early = self.feeds.iter().map(|f| f.place).chain(self.sponge.map(|s| s.place));
        early.chain(self.bulk.iter().chain(&self.proof).map(|l| l.place)).any(|p| p == place)
    }
    /// The places of the rises, for telling ways apart.
    #[must_use]
    pub fn places(&self) -> Vec<Vec<Place>> {
        let of = |legs: &[Leg]| legs.iter().map(|l| l.place).collect::<Vec<_>>();
        self.feeds
            .iter()
            .map(|f| vec![f.place])
            .chain(self.sponge.map(|s| vec![s.place]))
            .chain([of(&self.bulk), of(&self.proof)])
            .filter(|p| !p.is_empty())
            .collect()
    }
}

/// A piece of work between the waits.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Work {
    /// Nothing yet: a rise is under way, and this is the moment from which the rest is planned.
    Now,
    /// Feed the leaven, or mix the preferment.
    Feed,
    /// Weigh, mix, knead.
    Mix,
    /// Carry the dough elsewhere.
    Move(Place),
    /// Divide and shape.
    Shape,
    /// Heat the oven, load, bake, take out: warm from the bench, or cold from the fridge.
    Bake {
        /// From the fridge.
        cold: bool,
    },
}

/// What the works of one dough take. Minutes; all common practice, no source.
#[derive(Debug, Clone, PartialEq)]
pub struct Works {
    /// Feeding.
    pub feed: Minute,
    /// Before the mix begins: the scald, made and left to cool.
    pub scald: Option<(Minute, Minute)>,
    /// Weighing and mixing.
    pub mix: Minute,
    /// It soaks, before it is kneaded.
    pub soak: Minute,
    /// Kneading: hands at it.
    pub knead: Minute,
    /// Whether it is shaped as soon as it is kneaded, while its one rise begins.
    pub shaped_at_once: bool,
    /// The machine kneads alone: watched.
    pub machine: Minute,
    /// Dividing and first shaping, rest, shaping.
    pub shape: (Minute, Minute, Minute),
    /// Brushing, dipping, closing the lid: minutes before the load, and how long.
    pub finish: Vec<(Minute, Minute)>,
    /// From one load out to the next one in.
    pub between_loads: Minute,
    /// Scoring, dipping, loading.
    pub load: Minute,
    /// Heating before the load.
    pub preheat: Minute,
    /// Places a dough comes out of too cold for the usual minutes in the oven.
    pub cold: Vec<Place>,
    /// In the oven: warm, cold from the last of its places.
    pub bake: (Minute, Minute),
    /// The same at its late end, which four bakes in five keep: so long the oven is watched.
    pub bake_late: (Minute, Minute),
    /// Acts at the oven, minutes after the load: warm, cold.
    pub acts: (Vec<Minute>, Vec<Minute>),
    /// Cooling before it is sliced.
    pub cool: Minute,
    /// Oven loads.
    pub loads: Minute,
}

/// A fold: minutes of hands. Common practice, no source.
pub const FOLD_MIN: Minute = 3;
/// Moving a dough, taking a loaf out, minding the oven: minutes of hands.
pub const MOVE_MIN: Minute = 2;
/// Taking out.
pub const OUT_MIN: Minute = 3;

impl Works {
    /// Whether the pieces of a way go into the oven cold.
    #[must_use]
    pub fn bakes_cold(&self, schedule: &Schedule) -> bool {
        schedule.proof.last().is_some_and(|l| self.cold.contains(&l.place))
    }
    /// Minutes of baking.
    #[must_use]
    pub const fn bake_min(&self, cold: bool) -> Minute {
        if cold { self.bake.1 } else { self.bake.0 }
    }
    /// Minutes of shaping with its rest.
    #[must_use]
    pub const fn shape_min(&self) -> Minute {
        self.shape.0 + self.shape.1 + self.shape.2
    }
    /// Minutes from one load to the next.
    #[must_use]
    pub const fn pitch(&self, cold: bool) -> Minute {
        self.bake_min(cold) + self.between_loads
    }
    /// Minutes from a work's own moment to where its wait begins; of the bake to the last loaf out.
    #[must_use]
    pub const fn length(&self, work: Work) -> Minute {
        match work {
            Work::Feed => self.feed,
            Work::Mix => self.mix + self.soak + self.knead + self.machine,
            Work::Now | Work::Move(_) => 0,
            Work::Shape => self.shape_min(),
            Work::Bake { cold } => (self.loads - 1) * self.pitch(cold) + self.bake_min(cold) + OUT_MIN,
        }
    }
    /// What it takes, in order.
    #[must_use]
    pub fn segs(&self, work: Work) -> Vec<Seg> {
        let hands = |offset, length| Seg { offset, length, need: Need::Hands };
        let brief = |offset, length| Seg { offset, length, need: Need::Brief };
        let rest = |offset, length| Seg { offset, length, need: Need::Rest };
        let watch = |offset, length| Seg { offset, length, need: Need::Watch };
        let mut segs = match work {
            Work::Now => Vec::new(),
            Work::Feed => vec![hands(0, self.feed)],
            Work::Mix => {
                let kneads = self.mix + self.soak;
                let mut segs = vec![hands(0, self.mix), hands(kneads, self.knead), watch(kneads + self.knead, self.machine)];
                if let Some((work, cools)) = self.scald {
                    segs.push(hands(-work - cools, work));
                }
                if self.shaped_at_once {
                    let (from, (first, on_bench, second)) = (kneads + self.knead + self.machine, self.shape);
                    segs.extend([hands(from, first), rest(from + first, on_bench), hands(from + first + on_bench, second)]);
                }
                segs
            }
            Work::Move(_) => vec![hands(0, MOVE_MIN)],
            Work::Shape => {
                let (first, on_bench, second) = self.shape;
                vec![hands(0, first), rest(first, on_bench), hands(first + on_bench, second)]
            }
            Work::Bake { cold } => {
                let minutes = self.bake_min(cold);
                let late = minutes.max(if cold { self.bake_late.1 } else { self.bake_late.0 });
                let mut segs = vec![watch(-self.preheat, self.preheat), hands(-self.preheat, 1)];
                segs.extend(self.finish.iter().map(|(before, takes)| hands(-before, *takes)));
                let acts = if cold { &self.acts.1 } else { &self.acts.0 };
                for n in 0..self.loads {
                    let at = n * self.pitch(cold);
                    segs.extend([
                        hands(at, self.load),
                        watch(at, late + OUT_MIN),
                        Seg { offset: at, length: minutes, need: Need::Oven },
                        brief(at + minutes, OUT_MIN),
                    ]);
                    segs.extend(acts.iter().filter(|a| **a < minutes).map(|a| brief(at + a, 1)));
                }
                segs
            }
        };
        segs.retain(|s| s.length > 0);
        segs
    }
    /// Minutes of hands.
    #[must_use]
    pub fn hands_min(&self, work: Work) -> Minute {
        self.segs(work).iter().filter(|s| s.need.is_hands()).map(|s| s.length).sum()
    }
}
