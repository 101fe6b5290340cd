//! The baker's hours: when one sleeps, is out, has full hands, by weekly habit or once; and errands to
//! keep an eye on.

use jiff::{Timestamp, ToSpan, civil, tz::TimeZone};
use serde::{Deserialize, Serialize};

use crate::{
    input::{Errors, Pointer},
    measure::{hour_of_day, typed_hour},
};

words! {
    /// What kind of hours.
    HoursKind {
        Asleep "asleep" "asleep",
        Away "away" "away, nobody at home",
        Busy "busy" "at home, hands full",
        /// A moment that binds nobody, shown beside the plan.
        Errand "errand" "just a reminder",
    }
}

/// Short names of the days, Monday first.
pub const DAYS: [&str; 7] = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/// Hours that come back every week, or once on a date. Hours that end before they begin end the next day.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Hours {
    /// What: `on watch`.
    pub name: String,
    /// Which kind.
    pub kind: HoursKind,
    /// Days of the week, 0 for Monday; nothing where there is a date.
    #[serde(default)]
    pub days: Vec<u8>,
    /// Once, on this date: `2026-11-07`.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub date: Option<String>,
    /// From: `22:30`.
    pub from: String,
    /// To: `04:30`.
    #[serde(default)]
    pub to: String,
}

/// Hours on a day, as instants.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Spell {
    /// From.
    pub from: Timestamp,
    /// To; the same for an errand.
    pub to: Timestamp,
    /// Which kind.
    pub kind: HoursKind,
    /// What.
    pub name: String,
}

const MOST: usize = 60;
const LONGEST_NAME: usize = 40;

pub(super) fn clock(text: &str) -> Option<civil::Time> {
    civil::Time::strptime("%H:%M", text.trim()).ok()
}

impl Hours {
    fn check(&self, here: &Pointer, errors: &mut Errors) {
        if self.name.trim().is_empty() || self.name.chars().count() > LONGEST_NAME {
            errors.add(here.at("name"), "Say in 1 to 40 letters what these hours are.");
        }
        if self.days.iter().any(|d| *d > 6) {
            errors.add(here.at("days"), "Days are 0 for Monday to 6 for Sunday.");
        }
        match &self.date {
            Some(d) if d.parse::<civil::Date>().is_err() => errors.add(here.at("date"), "Write a day, for example tomorrow, Sat or 7 Nov."),
            None if self.days.is_empty() => errors.add(here.at("days"), "Choose the days, or give a date."),
            _ => {}
        }
        if clock(&self.from).is_none() {
            errors.add(here.at("from"), "Write an hour, for example 22:30 or 10.30 pm.");
        }
        if self.kind != HoursKind::Errand {
            match (clock(&self.from), clock(&self.to)) {
                (_, None) => errors.add(here.at("to"), "Write an hour, for example 22:30 or 10.30 pm."),
                (Some(a), Some(b)) if a == b => errors.add(here.at("to"), "These hours end when they begin."),
                _ => {}
            }
        }
    }

    fn on(&self, date: civil::Date) -> bool {
        match &self.date {
            Some(once) => once.parse::<civil::Date>().is_ok_and(|d| d == date),
            None => {
                let day = date.weekday().to_monday_zero_offset();
                self.days.iter().any(|d| i32::from(*d) == i32::from(day))
            }
        }
    }

    /// In words: `Fri 16:00–18:00`.
    #[must_use]
    pub fn words(&self) -> String {
        let days: Vec<&str> = self.days.iter().filter_map(|d| DAYS.get(usize::from(*d)).copied()).collect();
        let when = match (&self.date, days.len()) {
            (Some(date), _) => date.parse().map_or_else(|_| date.clone(), |d: civil::Date| d.strftime("%a %-d %b").to_string()),
            (None, 7) => "every day".to_owned(),
            (None, _) => days.join(", "),
        };
        let hour = |text: &str| typed_hour(text).map_or_else(|| text.to_owned(), |m| hour_of_day(f64::from(m)).to_string());
        let (from, to) = (hour(&self.from), hour(&self.to));
        if self.kind == HoursKind::Errand { format!("{when} {from}") } else { format!("{when} {from}\u{2013}{to}") }
    }
}

impl Hours {
    /// Asleep every night, from and to as `HH:MM`.
    pub(super) fn every_night(name: &str, (from, to): (&str, &str)) -> Self {
        let (name, from, to) = (name.to_owned(), from.to_owned(), to.to_owned());
        Self { name, kind: HoursKind::Asleep, days: (0..7).collect(), date: None, from, to }
    }
}

/// When a household sleeps of which nobody said so. Common practice, no source.
const ASSUMED: (&str, &str) = ("23:00", "07:00");

impl super::Kitchen {
    /// The hours that are assumed while nobody has said when the household sleeps.
    #[must_use]
    pub fn assumed_hours(&self) -> Option<Hours> {
        let told = self.nights_told || self.hours.iter().any(|h| h.kind == HoursKind::Asleep);
        (!told).then(|| Hours::every_night("asleep", ASSUMED))
    }

    /// The hours plans keep to: those told, and those assumed.
    #[must_use]
    pub fn kept_hours(&self) -> Vec<Hours> {
        self.hours.iter().cloned().chain(self.assumed_hours()).collect()
    }
}

/// Checks a household's hours.
pub(super) fn check(hours: &[Hours], errors: &mut Errors) {
    let here = Pointer::root().at("hours");
    if hours.len() > MOST {
        errors.add(here.clone(), "At most 60 kinds of hours.");
    }
    for (i, h) in hours.iter().take(MOST).enumerate() {
        h.check(&here.at(i), errors);
    }
}

/// All spells that touch a span, in the household's zone, in order. A change of clocks moves no hour of the day.
#[must_use]
pub fn spells(hours: &[Hours], zone: &TimeZone, from: Timestamp, to: Timestamp) -> Vec<Spell> {
    let mut found = Vec::new();
    let Ok(mut date) = from.to_zoned(zone.clone()).date().checked_sub(1.day()) else { return found };
    let last = to.to_zoned(zone.clone()).date();
    while date <= last {
        for h in hours.iter().filter(|h| h.on(date)) {
            let Some(start) = clock(&h.from) else { continue };
            let end = if h.kind == HoursKind::Errand { Some(start) } else { clock(&h.to) };
            let Some(end) = end else { continue };
            let end_date = if end < start { date.checked_add(1.day()).unwrap_or(date) } else { date };
            let at = |d: civil::Date, t: civil::Time| d.to_datetime(t).to_zoned(zone.clone()).ok().map(|z| z.timestamp());
            if let (Some(a), Some(b)) = (at(date, start), at(end_date, end))
                && b >= from
                && a <= to
            {
                found.push(Spell { from: a, to: b, kind: h.kind, name: h.name.clone() });
            }
        }
        match date.checked_add(1.day()) {
            Ok(next) => date = next,
            Err(_) => break,
        }
    }
    found.sort_by_key(|s| (s.from, s.to));
    found
}
