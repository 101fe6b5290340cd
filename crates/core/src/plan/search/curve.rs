//! Dough time over the clock along the places of a rise, and the minutes at which it reaches an age.

use rustc_hash::FxHashMap;

use super::{
    hours::{Minute, Span, WaitRange},
    schedule::{Leg, RiseOf},
};
use crate::kitchen::{Place, Stay};

/// What a curve needs to know of a dough: how fast it works at a temperature, how soon it takes a place's.
pub trait Ageing {
    /// Speed of the dough's clock, 1 at 24 °C.
    fn speed(&self, rise: RiseOf, celsius: f64) -> f64;
    /// Minutes until 63 % of the way to the place's temperature.
    fn tau_min(&self, rise: RiseOf, place: Place) -> f64;
    /// How warm a place is by day, °C; `None`: the kitchen has no such place.
    fn place_c(&self, place: Place) -> Option<f64>;
    /// Its mean over a span of the clock.
    fn mean_c(&self, place: Place, _: Span) -> Option<f64> {
        self.place_c(place)
    }
    /// The coldest and the warmest it is in a day.
    fn range_c(&self, place: Place) -> Option<(f64, f64)> {
        self.place_c(place).map(|c| (c, c))
    }
    /// Whether any place is another by night than by day.
    fn varies(&self) -> bool {
        false
    }
}

/// What a rise needs: dough hours until ripe, and shares of these.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct RiseNeed {
    /// Dough hours at 24 °C until ripe.
    pub hours: f64,
    /// The least a plan aims at.
    pub lower: f64,
    /// The most.
    pub upper: f64,
    /// Where it is over.
    pub over: f64,
}

/// A stay of the dough while it is planned: minutes, or none where it is as long as it takes.
pub type OpenStay = Stay<Option<Minute>>;

/// Legs with the warmth that is asked of each place; none where the kitchen has no such place.
pub fn stays(legs: &[Leg], mut warmth: impl FnMut(&Leg) -> Option<f64>) -> Option<Vec<OpenStay>> {
    legs.iter().map(|l| Some(Stay::at((l.place, warmth(l)?), l.minutes))).collect()
}

const STEP_MIN: f64 = 5.0;
/// No rise is looked at for longer: 84 h.
pub const LONGEST_MIN: Minute = 5040;

/// Age and temperature after standing for so long at one place.
fn stand(m: &impl Ageing, rise: RiseOf, celsius: f64, stay: &OpenStay, minutes: f64) -> (f64, f64) {
    let (mut age, mut c, mut left) = (0.0, celsius, minutes);
    let here = stay.celsius;
    let tau = m.tau_min(rise, stay.place);
    let full = (-STEP_MIN / (2.0 * tau)).exp();
    let mut speed = m.speed(rise, c);
    while left > 1e-9 {
        let h = STEP_MIN.min(left);
        let half = if h < STEP_MIN { (-h / (2.0 * tau)).exp() } else { full };
        let middle = here + (c - here) * half;
        c = here + (middle - here) * half;
        let end = m.speed(rise, c);
        age += h / 360.0 * (speed + 4.0 * m.speed(rise, middle) + end);
        speed = end;
        left -= h;
    }
    (age, c)
}

/// Age in dough hours and temperature after all stays, the open one taken as `minutes` long.
#[must_use]
pub fn age_after(m: &impl Ageing, rise: RiseOf, start_c: f64, stays: &[OpenStay], minutes: f64) -> (f64, f64) {
    stays.iter().fold((0.0, start_c), |(age, c), stay| {
        let (more, c) = stand(m, rise, c, stay, stay.span.map_or(minutes, f64::from));
        (age + more, c)
    })
}

/// Temperature after all stays, the open one taken as `minutes` long.
#[must_use]
pub fn celsius_after(m: &impl Ageing, rise: RiseOf, start_c: f64, stays: &[OpenStay], minutes: f64) -> f64 {
    stays.iter().fold(start_c, |c, stay| {
        let here = stay.celsius;
        here + (c - here) * (-stay.span.map_or(minutes, f64::from) / m.tau_min(rise, stay.place)).exp()
    })
}

/// The open stay on a grid of five minutes, made as far as it is asked for.
#[derive(Debug)]
struct Track {
    rise: RiseOf,
    here: f64,
    half: f64,
    /// Age and temperature at each step.
    points: Vec<(f64, f64)>,
    speed: f64,
    after: Vec<OpenStay>,
    /// Age after the stays that follow, worked out where it was asked for.
    ends: Vec<Option<f64>>,
}

impl Track {
    fn new(m: &impl Ageing, rise: RiseOf, start_c: f64, stays: &[OpenStay]) -> Option<Self> {
        let open = stays.iter().position(|l| l.span.is_none())?;
        let (before, rest) = stays.split_at(open);
        let (stay, after) = rest.split_first()?;
        let (age, c) = age_after(m, rise, start_c, before, 0.0);
        let tau = m.tau_min(rise, stay.place);
        Some(Self {
            rise,
            here: stay.celsius,
            half: (-STEP_MIN / (2.0 * tau)).exp(),
            points: vec![(age, c)],
            speed: m.speed(rise, c),
            after: after.to_vec(),
            ends: Vec::new(),
        })
    }

    fn extend(&mut self, m: &impl Ageing, to: usize) {
        while self.points.len() <= to {
            let Some(&(age, c)) = self.points.last() else { return };
            let middle = self.here + (c - self.here) * self.half;
            let end = self.here + (middle - self.here) * self.half;
            let speed = m.speed(self.rise, end);
            let more = STEP_MIN / 360.0 * (self.speed + 4.0 * m.speed(self.rise, middle) + speed);
            self.speed = speed;
            self.points.push((age + more, end));
        }
    }

    /// Age at the end of the rise if the open stay lasts `step` steps.
    fn at(&mut self, m: &impl Ageing, step: usize) -> f64 {
        self.extend(m, step);
        let (age, c) = self.points.get(step).copied().unwrap_or((0.0, self.here));
        if self.after.is_empty() {
            return age;
        }
        if self.ends.len() <= step {
            self.ends.resize(step + 1, None);
        }
        let (rise, after) = (self.rise, &self.after);
        let more = || age_after(m, rise, c, after, 0.0).0;
        age + self.ends.get_mut(step).map_or(0.0, |end| *end.get_or_insert_with(more))
    }

    /// The first step at which an age is reached where nothing follows: the points rise with the clock.
    fn step_to(&mut self, m: &impl Ageing, age: f64, most: usize) -> Option<usize> {
        let mut known = 12;
        loop {
            self.extend(m, known.min(most));
            if self.points.last().is_some_and(|p| p.0 >= age) {
                return Some(self.points.partition_point(|p| p.0 < age));
            }
            if known >= most {
                return None;
            }
            known *= 2;
        }
    }

    /// Minutes of the open stay at which the age is reached, between steps on a straight line; none within 84 h.
    #[allow(clippy::cast_precision_loss, reason = "steps of five minutes, a thousand at most")]
    fn minutes_to(&mut self, m: &impl Ageing, age: f64) -> Option<f64> {
        if self.at(m, 0) >= age {
            return Some(0.0);
        }
        // Ever farther, then halving: most rises end within hours.
        let most = usize::try_from(LONGEST_MIN).unwrap_or(0) / 5;
        if self.after.is_empty() {
            let high = self.step_to(m, age, most)?;
            let ((a, _), (b, _)) = (*self.points.get(high.checked_sub(1)?)?, *self.points.get(high)?);
            return Some(STEP_MIN * ((high - 1) as f64 + (age - a) / (b - a)));
        }
        let (mut low, mut high) = (0, 12);
        while self.at(m, high) < age {
            if high >= most {
                return None;
            }
            low = high;
            high = (high * 2).min(most);
        }
        while high - low > 1 {
            let middle = usize::midpoint(low, high);
            if self.at(m, middle) < age { low = middle } else { high = middle }
        }
        let (a, b) = (self.at(m, low), self.at(m, high));
        Some(STEP_MIN * (low as f64 + (age - a) / (b - a)))
    }
}

type Key = (RiseOf, i32, Vec<(Place, Option<Minute>, i32)>);

/// Curves once made, by rise, start temperature to a tenth of a degree, and stays, their warmth to a hundredth.
#[derive(Debug, Default)]
pub struct Curves {
    tracks: FxHashMap<Key, Option<Track>>,
}

/// Ages at which a rise may end: first, likeliest, last, dough hours.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Ages {
    /// First.
    pub lower: f64,
    /// Likeliest.
    pub nominal: f64,
    /// Last.
    pub upper: f64,
}

impl Curves {
    /// Minutes of the open stay, within `[least, most]`; none where no minute of it is ripe.
    pub fn joint(
        &mut self,
        m: &impl Ageing,
        rise: RiseOf,
        start_c: f64,
        stays: &[OpenStay],
        ages: Ages,
        (least, most): (Minute, Minute),
    ) -> Option<WaitRange> {
        #[allow(clippy::cast_possible_truncation, reason = "tenths of a degree of a dough")]
        let tenths = (10.0 * start_c).round() as i32;
        #[allow(clippy::cast_possible_truncation, reason = "hundredths of a degree of a place")]
        let key = |s: &OpenStay| (s.place, s.span, (100.0 * s.celsius).round() as i32);
        let track = self
            .tracks
            .entry((rise, tenths, stays.iter().map(key).collect()))
            .or_insert_with(|| Track::new(m, rise, f64::from(tenths) / 10.0, stays))
            .as_mut()?;
        #[allow(clippy::cast_possible_truncation, reason = "minutes, 84 h at most")]
        let whole = |minutes: f64| minutes as Minute;
        let lo = whole(track.minutes_to(m, ages.lower)?.ceil()).max(least);
        if lo > most || track.at(m, 0) > ages.upper {
            return None;
        }
        let hi = track.minutes_to(m, ages.upper).map_or(LONGEST_MIN, |x| whole(x.floor())).min(most);
        let nominal = track.minutes_to(m, ages.nominal).map_or(hi, |x| whole(x.round()));
        (lo <= hi).then(|| WaitRange { lo, nominal: nominal.clamp(lo, hi), hi })
    }
}

/// Minutes from now on until a dough that has some age in it may be used, is ripe, is at its last, is over.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FromHere {
    /// First.
    pub lo: Option<f64>,
    /// Ripe.
    pub nominal: Option<f64>,
    /// Last.
    pub hi: Option<f64>,
    /// Over.
    pub over: Option<f64>,
}

/// How a rise under way would go on at a place so warm: 0 where it is past, nothing where it is not within 84 h.
#[must_use]
pub fn from_here(m: &impl Ageing, rise: RiseOf, celsius: f64, (place, place_c): (Place, f64), age_h: f64, need: RiseNeed) -> FromHere {
    let mut track = Track::new(m, rise, celsius, &[Stay::at((place, place_c), None)]);
    let mut to = |share: f64| track.as_mut().and_then(|t| t.minutes_to(m, (share * need.hours - age_h).max(0.0)));
    FromHere { lo: to(need.lower), nominal: to(1.0), hi: to(need.upper), over: to(need.over) }
}
