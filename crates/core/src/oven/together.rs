//! Two breads and one oven: in it together, or one after the other, and then which first.

use super::bake::MOST_PIECES;
use super::{Advice, Bake, Constants, Status, advise};

/// Settings tried, °C apart.
const STEP_C: f64 = 5.0;
/// Breads whose own settings lie farther apart are not baked at one: both would come out as neither is wished.
const APART_C: f64 = 25.0;
/// An oven left to itself falls so fast with its door ajar, and is heated so fast, K/min. Engineering estimate.
const FALLS_K_PER_MIN: f64 = 3.0;
const RISES_K_PER_MIN: f64 = 6.0;
/// Between two breads: out, the next in. Common practice, no source.
const HANDS_MIN: f64 = 5.0;

/// Least minutes between two loads, the oven coming back to heat. Common practice, no source.
const BETWEEN_LOADS_MIN: f64 = 10.0;

/// How two breads share an oven.
#[derive(Debug, Clone, PartialEq)]
pub enum Sharing {
    /// Both at one setting; each is taken out at its own minute.
    Together {
        /// The setting nearest what both would have alone, °C.
        set_c: f64,
        /// Each at that setting, with the other in the oven.
        each: Box<(Advice, Advice)>,
    },
    /// One after the other.
    InTurn {
        /// Whether the second of the two goes in first.
        second_first: bool,
        /// Each at its own setting, alone.
        each: Box<(Advice, Advice)>,
        /// Minutes between the one out and the other in: the oven cools or heats to the other setting.
        between_min: f64,
    },
}

/// Whether both come out as wished at a setting: core and crust together, or a touch more of one.
fn well(a: &Advice) -> bool {
    a.status == Status::Together
}

/// Works out whether two breads can be in the oven at once, and if not, which goes first.
///
/// Together: where their own settings lie near each other and both or neither are steamed; the setting at which both come out as wished, nearest the middle of what each would
/// have alone. In turn: the hotter first, for an oven falls by itself while the first is carried out. Common practice,
/// no source; each reckons with the dough of both in the oven where they share it.
#[must_use]
pub fn share(one: &Bake, other: &Bake, k: &Constants) -> Sharing {
    let alone = (advise(one, k), advise(other, k));
    let weight = |b: &Bake| b.piece_g * f64::from(b.pieces);
    let (low, high) = (alone.0.set_c.min(alone.1.set_c), alone.0.set_c.max(alone.1.set_c));
    let middle = f64::midpoint(low, high);
    // The other's dough cools the oven as well: as so much more of one's own.
    let beside = |b: &Bake, other: &Bake, set_c: f64| {
        let more = weight(other) / b.piece_g;
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a load of one oven")]
        let more = more.round().min(f64::from(MOST_PIECES)) as u32;
        advise(&Bake { pieces: (b.pieces + more).min(MOST_PIECES), set_c: Some(set_c), touching: b.touching && more == 0, ..b.clone() }, k)
    };
    let mut settings: Vec<f64> = Vec::new();
    let mut c = low - 2.0 * STEP_C;
    while c <= high + 2.0 * STEP_C + 1e-9 {
        settings.push(c);
        c += STEP_C;
    }
    // Steam for the one dulls the glaze of the other and keeps it pale.
    let alike = high - low <= APART_C && (alone.0.steam_min > 0.0) == (alone.1.steam_min > 0.0);
    settings.retain(|c| alike && (100.0..=300.0).contains(c));
    settings.sort_by(|a, b| (a - middle).abs().total_cmp(&(b - middle).abs()).then(a.total_cmp(b)));
    for set_c in settings {
        let each = (beside(one, other, set_c), beside(other, one, set_c));
        if well(&each.0) && well(&each.1) {
            return Sharing::Together { set_c, each: Box::new(each) };
        }
    }
    let second_first = alone.1.set_c > alone.0.set_c;
    let change = high - low;
    // A falling rye leaves the oven cooler than its dial.
    let last = |a: &Advice| a.turns.last().map(|t| t.to_c);
    let leaves_at = if second_first { last(&alone.1) } else { last(&alone.0) };
    let between_min = HANDS_MIN
        + match leaves_at {
            Some(c) if c < low => (low - c) / RISES_K_PER_MIN,
            Some(c) => (c - low) / FALLS_K_PER_MIN,
            None => change / FALLS_K_PER_MIN,
        };
    Sharing::InTurn { second_first, each: Box::new(alone), between_min }
}

/// Minutes between two loads until the oven is as hot as at first: it left off at its last setting and fell while a bread dried in it.
#[must_use]
pub fn between_loads_min(set_c: f64, last_c: Option<f64>, dries_min: f64) -> f64 {
    let left_at = last_c.unwrap_or(set_c) - FALLS_K_PER_MIN * dries_min;
    BETWEEN_LOADS_MIN.max(((set_c - left_at) / RISES_K_PER_MIN).ceil())
}

/// What is done on the common clock of two breads.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ShareAct {
    /// The oven is lit.
    Heat,
    /// Both go in.
    LoadBoth,
    /// One goes in: whether it is the second of the two.
    Load(bool),
    /// One comes out.
    Out(bool),
}

impl Sharing {
    /// What is done when, in minutes from the first load: from and to where it is a range.
    #[must_use]
    pub fn acts(&self) -> Vec<(ShareAct, f64, f64)> {
        let out = |a: &Advice, from: f64| a.minutes_low.zip(a.minutes_high).map(|(low, high)| (from + low, from + high));
        let mut acts = Vec::new();
        let mut add = |act: ShareAct, at: Option<(f64, f64)>| acts.extend(at.map(|(from, to)| (act, from, to)));
        match self {
            Self::Together { each, .. } => {
                let heats = each.0.heats_min().zip(each.1.heats_min()).map(|(a, b)| a.max(b));
                add(ShareAct::Heat, heats.map(|m| (-m, -m)));
                add(ShareAct::LoadBoth, Some((0.0, 0.0)));
                add(ShareAct::Out(false), out(&each.0, 0.0));
                add(ShareAct::Out(true), out(&each.1, 0.0));
            }
            Self::InTurn { second_first, each, between_min } => {
                let (first, then) = if *second_first { (&each.1, &each.0) } else { (&each.0, &each.1) };
                add(ShareAct::Heat, first.heats_min().map(|m| (-m, -m)));
                add(ShareAct::Load(*second_first), Some((0.0, 0.0)));
                add(ShareAct::Out(*second_first), out(first, 0.0));
                let from = first.minutes.map(|m| m + between_min);
                add(ShareAct::Load(!second_first), from.map(|m| (m, m)));
                add(ShareAct::Out(!second_first), from.and_then(|m| out(then, m)));
            }
        }
        acts.sort_by(|a, b| a.1.total_cmp(&b.1));
        acts
    }
}

/// A bread in several loads.
#[derive(Debug, Clone, PartialEq)]
pub struct InLoads {
    /// Pieces to a load.
    pub pieces: u32,
    /// Minutes between them, the oven coming back to heat.
    pub between_min: f64,
    /// For each load when it goes in, and when it comes out early and late: minutes from the first.
    pub each: Vec<(f64, f64, f64)>,
}

/// A bread baked in so many loads. None where it is not done.
#[must_use]
pub fn in_loads(bake: &Bake, loads: u32, k: &Constants) -> Option<InLoads> {
    let pieces = bake.pieces.div_ceil(loads.max(1)).max(1);
    let a = advise(&Bake { pieces, ..bake.clone() }, k);
    let (minutes, (low, high)) = (a.out_min()?, a.out_range()?);
    let between_min = between_loads_min(a.set_c, a.turns.last().map(|t| t.to_c), a.drying.map_or(0.0, |d| d.minutes));
    let each = (0..loads).map(|i| f64::from(i) * (minutes + between_min));
    Some(InLoads { pieces, between_min, each: each.map(|at| (at, at + low, at + high)).collect() })
}
