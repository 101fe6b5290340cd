//! When it is dark outside, where the kitchen's place on the earth is known.

use chrono::{Days, NaiveDate};
use jiff::Timestamp;
use sunrise::{Coordinates, SolarDay, SolarEvent};

/// A night from sunset to sunrise.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Dark {
    /// Sunset.
    pub from: Timestamp,
    /// Sunrise.
    pub to: Timestamp,
}

/// Most nights that are looked for.
const MOST: u64 = 40;

/// The nights that touch a span at a place on the earth, degrees north and east; none where the sun does not set or
/// does not rise.
///
/// Sunset and sunrise of the package `sunrise` (the sunrise equation; upper limb, 34' of refraction): to about a
/// minute or two on a flat horizon.
#[must_use]
pub fn darkness((latitude, longitude): (f64, f64), from: Timestamp, to: Timestamp) -> Vec<Dark> {
    let Some(here) = Coordinates::new(latitude, longitude) else { return Vec::new() };
    let Some(first) = date_of(from).and_then(|d| d.checked_sub_days(Days::new(1))) else { return Vec::new() };
    let sun = |date: NaiveDate, event: SolarEvent| {
        let at = SolarDay::new(here, date).event_time(event)?;
        Timestamp::from_second(at.timestamp()).ok()
    };
    let dates = (0..MOST).map_while(|n| first.checked_add_days(Days::new(n)));
    let nights = dates.filter_map(|date| {
        let sunset = sun(date, SolarEvent::Sunset)?;
        let sunrise = sun(date.succ_opt()?, SolarEvent::Sunrise)?;
        (sunset < sunrise).then_some(Dark { from: sunset, to: sunrise })
    });
    nights.take_while(|n| n.from <= to).filter(|n| n.to >= from).collect()
}

/// The date of an instant by the clock of Greenwich.
fn date_of(at: Timestamp) -> Option<NaiveDate> {
    NaiveDate::from_ymd_opt(1970, 1, 1)?.checked_add_signed(chrono::TimeDelta::try_seconds(at.as_second())?)
}
