//! Civil time exists only here: instants of the core as the household's clock shows them.

use cerealis_core::{
    kitchen::{Dark, Kitchen, darkness},
    measure::{Clock, Units, hour_of_day, to_nearest},
};
use jiff::{Timestamp, Zoned, tz::TimeZone};

/// The household's zone.
#[derive(Debug, Clone)]
pub struct Local {
    zone: TimeZone,
    /// Degrees north and east, where they are told.
    earth: Option<(f64, f64)>,
    units: Units,
}

/// The instant to steps of so many minutes.
#[must_use]
pub fn to_step(t: Timestamp, step_min: f64) -> Timestamp {
    #[allow(clippy::cast_precision_loss, clippy::cast_possible_truncation, reason = "minutes since 1970")]
    let rounded = to_nearest(t.as_second() as f64 / 60.0, step_min) as i64 * 60;
    Timestamp::from_second(rounded).unwrap_or(t)
}

impl Local {
    /// Of a kitchen; UTC if its zone is not known.
    #[must_use]
    pub fn of(kitchen: &Kitchen) -> Self {
        Self { zone: kitchen.time_zone(), earth: kitchen.latitude.zip(kitchen.longitude), units: kitchen.units }
    }
    /// The same for data: hours as programs write them.
    #[must_use]
    pub fn for_data(kitchen: &Kitchen) -> Self {
        Self { units: Units::METRIC, ..Self::of(kitchen) }
    }
    /// What the household reads its figures in.
    #[must_use]
    pub const fn units(&self) -> &Units {
        &self.units
    }
    /// The clock's face: four digits, an hour below ten without its nought where the clock has twelve; and which half of the day.
    #[must_use]
    pub fn face(&self, t: Timestamp) -> (String, &'static str) {
        let minute = self.minute_of_day(t);
        let (hour, minute) = (minute / 60, minute % 60);
        match self.units.clock {
            Clock::H24 => (format!("{hour:02}{minute:02}"), ""),
            Clock::H12 => (format!("{:>2}{minute:02}", if hour % 12 == 0 { 12 } else { hour % 12 }), if hour < 12 { "am" } else { "pm" }),
        }
    }
    /// A whole hour on an axis: `16`, `4 pm`.
    #[must_use]
    pub fn whole_hour(&self, hour: i8) -> String {
        match self.units.clock {
            Clock::H24 => format!("{hour:02}"),
            Clock::H12 => hour_of_day(60.0 * f64::from(hour)).said(&self.units).replace(":00", ""),
        }
    }
    /// The zone itself.
    #[must_use]
    pub const fn zone(&self) -> &TimeZone {
        &self.zone
    }
    /// The nights outside that touch a span; none where the kitchen's place on the earth is not told.
    #[must_use]
    pub fn darkness(&self, from: Timestamp, to: Timestamp) -> Vec<Dark> {
        self.earth.map_or_else(Vec::new, |earth| darkness(earth, from, to))
    }
    fn at(&self, t: Timestamp) -> Zoned {
        t.to_zoned(self.zone.clone())
    }
    /// `18:10`.
    #[must_use]
    pub fn clock(&self, t: Timestamp) -> String {
        hour_of_day(f64::from(self.minute_of_day(t))).said(&self.units)
    }
    /// `18:10`, to steps of so many minutes.
    #[must_use]
    pub fn clock_to(&self, t: Timestamp, step_min: f64) -> String {
        self.clock(to_step(t, step_min))
    }
    /// `04:50–06:20`, as coarse as its width asks.
    #[must_use]
    pub fn span(&self, low: Timestamp, high: Timestamp) -> String {
        let step = cerealis_core::measure::show_clock_span(cerealis_core::plan::minutes_between(low, high));
        let (low, high) = (self.clock_to(low, step), self.clock_to(high, step));
        // `4:15–5:40 pm`: the half is said once where it is the same.
        let half = |text: &str| text.rsplit_once(' ').map(|(hour, half)| (hour.to_owned(), half.to_owned()));
        match (half(&low), half(&high)) {
            (Some((hour, a)), Some((_, b))) if a == b => format!("{hour}\u{2013}{high}"),
            _ => format!("{low}\u{2013}{high}"),
        }
    }
    /// `18:10`, or `Sat 18:10` where that is another day than `on`; to five minutes.
    #[must_use]
    pub fn clock_seen(&self, t: Timestamp, on: Timestamp) -> String {
        let clock = self.clock_to(t, 5.0);
        if self.day(t) == self.day(on) { clock } else { format!("{} {clock}", self.short_day(t)) }
    }
    /// `Fri 6 Nov`.
    #[must_use]
    pub fn day(&self, t: Timestamp) -> String {
        self.at(t).strftime("%a %-d %b").to_string()
    }
    /// Minutes since midnight.
    #[must_use]
    pub fn minute_of_day(&self, t: Timestamp) -> i32 {
        let at = self.at(t);
        60 * i32::from(at.hour()) + i32::from(at.minute())
    }
    /// `Fri`.
    #[must_use]
    pub fn short_day(&self, t: Timestamp) -> String {
        self.at(t).strftime("%a").to_string()
    }
    /// `Saturday`.
    #[must_use]
    pub fn weekday(&self, t: Timestamp) -> String {
        self.at(t).strftime("%A").to_string()
    }
    /// `Fri 6 Nov, 16:40`.
    #[must_use]
    pub fn day_and_clock(&self, t: Timestamp) -> String {
        format!("{}, {}", self.day(t), self.clock(t))
    }
    /// For a field `datetime-local`.
    #[must_use]
    pub fn field(&self, t: Timestamp) -> String {
        self.at(t).strftime("%Y-%m-%dT%H:%M").to_string()
    }
    /// From such a field, by the zone's clock; a time in a gap or fold follows the usual rule.
    #[must_use]
    pub fn read_field(&self, text: &str) -> Option<Timestamp> {
        let civil: jiff::civil::DateTime = text.trim().parse().ok()?;
        civil.to_zoned(self.zone.clone()).ok().map(|z| z.timestamp())
    }
    /// RFC 3339 with the household's offset at that instant.
    #[must_use]
    pub fn rfc3339(&self, t: Timestamp) -> String {
        self.at(t).strftime("%Y-%m-%dT%H:%M:%S%.f%:z").to_string()
    }
    /// Whole hours between two instants, for ticks: the instant and its hour of the day.
    #[must_use]
    pub fn hours(&self, from: Timestamp, to: Timestamp) -> Vec<(Timestamp, i8)> {
        let mut out = Vec::new();
        let start = self.at(from);
        let Ok(mut at) = start.date().at(start.hour(), 0, 0, 0).to_zoned(self.zone.clone()) else { return out };
        while at.timestamp() <= to && out.len() < 400 {
            if at.timestamp() >= from {
                out.push((at.timestamp(), at.hour()));
            }
            match at.checked_add(jiff::SignedDuration::from_hours(1)) {
                Ok(next) => at = next,
                Err(_) => break,
            }
        }
        out
    }
    /// Whether two instants lie on the same day.
    #[must_use]
    pub fn same_day(&self, a: Timestamp, b: Timestamp) -> bool {
        self.at(a).date() == self.at(b).date()
    }
}

/// `in an hour and a half`, `20 min ago`.
#[must_use]
pub fn in_words(minutes: f64) -> String {
    let ahead = minutes >= 0.0;
    let m = minutes.abs();
    let span = if m < 2.0 {
        return "now".to_owned();
    } else if m < 90.0 {
        format!("{} min", to_nearest(m, if m < 20.0 { 1.0 } else { 5.0 }))
    } else if m < 1440.0 {
        let halves = to_nearest(m / 60.0, 0.5);
        if halves.fract() > 0.0 { format!("{}½ h", halves.floor()) } else { format!("{halves} h") }
    } else {
        let days = to_nearest(m / 1440.0, 1.0);
        if days < 1.5 { "a day".to_owned() } else { format!("{days} days") }
    };
    if ahead { format!("in {span}") } else { format!("{span} ago") }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn civil_time_is_the_households() {
        let local = Local::of(&Kitchen { zone: "Europe/London".into(), ..Kitchen::default() });
        let t: Timestamp = "2026-07-06T16:40:00Z".parse().unwrap();
        assert_eq!((local.clock(t).as_str(), local.field(t).as_str()), ("17:40", "2026-07-06T17:40"));
        assert_eq!(local.read_field("2026-07-06T17:40"), Some(t));
        assert_eq!(local.rfc3339(t), "2026-07-06T17:40:00+01:00");
        assert_eq!(local.read_field("soon"), None);
        assert_eq!((in_words(95.0).as_str(), in_words(-12.0).as_str(), in_words(0.5).as_str()), ("in 1½ h", "12 min ago", "now"));
    }
}
