//! Days and hours as people write them: `tomorrow 7.30 pm`, `Sat 7 Nov 07:10`, `19:40`; and as they are written for them.

use cerealis_core::measure::typed_hour;
use jiff::{
    Timestamp, ToSpan,
    civil::{Date, Weekday},
};

use super::Local;

/// Which way an hour lies that is told without its day.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Lies {
    /// Ahead: when bread is wanted.
    Ahead,
    /// Behind: when something was done.
    Behind,
}

const MONTHS: [&str; 12] = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];
const WEEKDAYS: [(&str, Weekday); 7] = [
    ("mon", Weekday::Monday),
    ("tue", Weekday::Tuesday),
    ("wed", Weekday::Wednesday),
    ("thu", Weekday::Thursday),
    ("fri", Weekday::Friday),
    ("sat", Weekday::Saturday),
    ("sun", Weekday::Sunday),
];
/// Years that are meant; a slip of the finger makes others.
const YEARS: std::ops::RangeInclusive<i16> = 1990..=2199;

impl Local {
    /// `today 18:10`, `tomorrow 07:10`, `Sat 7 Nov 07:10`; with its year where that is another.
    #[must_use]
    pub fn when(&self, t: Timestamp, now: Timestamp) -> String {
        let (there, here) = (t.to_zoned(self.zone().clone()), now.to_zoned(self.zone().clone()));
        let day = match here.date().until(there.date()).map(|gap| gap.get_days()) {
            Ok(0) => "today".to_owned(),
            Ok(1) => "tomorrow".to_owned(),
            Ok(-1) => "yesterday".to_owned(),
            _ if there.year() != here.year() => there.strftime("%a %-d %b %Y").to_string(),
            _ => there.strftime("%a %-d %b").to_string(),
        };
        format!("{day} {}", self.clock(t))
    }

    /// The instant somebody means; the zone's usual rule where the clock is put forward or back. None where it cannot be read.
    #[must_use]
    pub fn read_when(&self, text: &str, now: Timestamp, lies: Lies) -> Option<Timestamp> {
        if let Some(at) = self.read_field(text) {
            return YEARS.contains(&at.to_zoned(self.zone().clone()).year()).then_some(at);
        }
        let text = text.to_lowercase().replace(',', " ");
        let words: Vec<&str> = text.split_whitespace().filter(|w| !matches!(*w, "at" | "on" | "the")).collect();
        // The hour stands last, in one word or in two: `7.30 pm`.
        let (hour, day) = (1..=2.min(words.len())).rev().find_map(|n| {
            let (day, hour) = words.split_at(words.len() - n);
            let hour = hour.join(" ");
            let is_hour = hour.contains([':', '.'])
                || hour.ends_with('m')
                || hour.ends_with("noon")
                || hour.ends_with("midnight")
                // Behind a month four digits are a year.
                || (n == 1 && hour.len() > 2 && !day.iter().any(|word| is_month(word)));
            Some((typed_hour(&hour).filter(|_| is_hour)?, day))
        })?;
        let today = now.to_zoned(self.zone().clone()).date();
        let at = |date: Date| {
            let (h, m) = (i8::try_from(hour / 60).ok()?, i8::try_from(hour % 60).ok()?);
            date.at(h, m, 0, 0).to_zoned(self.zone().clone()).ok().map(|z| z.timestamp())
        };
        if day.is_empty() {
            let other = if lies == Lies::Ahead { 1.day() } else { -1.day() };
            let fits = |t: &Timestamp| if lies == Lies::Ahead { *t >= now } else { *t <= now };
            return at(today).filter(fits).or_else(|| at(today.checked_add(other).ok()?));
        }
        at(read_day(day, today, lies)?)
    }

    /// A day alone: `tomorrow`, `Sat`, `Sat 7 Nov`, `2026-11-07`.
    #[must_use]
    pub fn read_day(&self, text: &str, now: Timestamp) -> Option<Date> {
        let text = text.to_lowercase().replace(',', " ");
        let words: Vec<&str> = text.split_whitespace().collect();
        read_day(&words, now.to_zoned(self.zone().clone()).date(), Lies::Ahead)
    }
}

fn starts(word: &str, name: &str) -> bool {
    word.starts_with(name) && word.chars().all(char::is_alphabetic)
}

fn is_month(word: &str) -> bool {
    MONTHS.iter().any(|name| starts(word, name))
}

fn read_day(words: &[&str], today: Date, lies: Lies) -> Option<Date> {
    let step = if lies == Lies::Ahead { 1.day() } else { -1.day() };
    match words {
        ["today"] => return Some(today),
        ["tomorrow"] => return today.tomorrow().ok(),
        ["yesterday"] => return today.yesterday().ok(),
        [iso] if iso.contains('-') => return iso.parse().ok().filter(|d: &Date| YEARS.contains(&d.year())),
        _ => {}
    }
    let (mut weekday, mut number, mut month, mut year) = (None, None, None, None);
    for word in words {
        let digits = word.trim_end_matches(|c: char| c.is_alphabetic() || c == '.');
        if let Some((_, day)) = WEEKDAYS.iter().find(|(name, _)| starts(word, name)) {
            weekday.replace(*day).is_none().then_some(())?;
        } else if let Some(m) = MONTHS.iter().position(|name| starts(word, name)) {
            month.replace(i8::try_from(m + 1).ok()?).is_none().then_some(())?;
        } else if digits.len() == 4 {
            year = Some(digits.parse::<i16>().ok().filter(|y| YEARS.contains(y))?);
        } else {
            number.replace(digits.parse::<i8>().ok()?).is_none().then_some(())?;
        }
    }
    if weekday.is_none() && number.is_none() {
        return None;
    }
    let fits = |d: &Date| {
        weekday.is_none_or(|w| d.weekday() == w)
            && number.is_none_or(|n| d.day() == n)
            && month.is_none_or(|m| d.month() == m)
            && year.is_none_or(|y| d.year() == y)
    };
    // The next such day, or the last; one named whole may lie either way.
    let mut day = today;
    for _ in 0..366 * 4 {
        if fits(&day) {
            return Some(day);
        }
        day = day.checked_add(step).ok()?;
    }
    let (y, m, d) = (year?, month?, number?);
    Date::new(y, m, d).ok().filter(fits)
}

#[cfg(test)]
mod tests {
    use cerealis_core::{
        kitchen::Kitchen,
        measure::{Clock, Units},
    };

    use super::*;

    fn local() -> Local {
        Local::of(&Kitchen { zone: "Europe/London".into(), ..Kitchen::default() })
    }

    /// A Friday.
    const NOW: &str = "2026-11-06T16:40:00Z";

    #[test]
    fn days_and_hours_are_read_as_people_write_them() {
        let (local, now) = (local(), NOW.parse().unwrap());
        for (text, meant) in [
            ("today 18:10", "2026-11-06T18:10"),
            ("tomorrow 7.30 pm", "2026-11-07T19:30"),
            ("Tomorrow, 7:30pm", "2026-11-07T19:30"),
            ("Sat 7 Nov 07:10", "2026-11-07T07:10"),
            ("Sat 7 07:10", "2026-11-07T07:10"),
            ("7th November at noon", "2026-11-07T12:00"),
            ("Sunday 0910", "2026-11-08T09:10"),
            ("fri 17:00", "2026-11-06T17:00"),
            ("18:10", "2026-11-06T18:10"),
            ("9 am", "2026-11-07T09:00"),
            ("3 Jan 08:00", "2027-01-03T08:00"),
            ("3 Jan 2028 08:00", "2028-01-03T08:00"),
            ("2026-11-07T07:10", "2026-11-07T07:10"),
            ("2026-11-07 07:10", "2026-11-07T07:10"),
        ] {
            let read = local.read_when(text, now, Lies::Ahead).map(|t| local.field(t));
            assert_eq!(read.as_deref(), Some(meant), "{text}");
        }
        assert_eq!(local.read_when("18:10", now, Lies::Behind).map(|t| local.field(t)).as_deref(), Some("2026-11-05T18:10"));
        assert_eq!(local.read_when("Thu 18:10", now, Lies::Behind).map(|t| local.field(t)).as_deref(), Some("2026-11-05T18:10"));
        for nonsense in [
            "",
            "soon",
            "Sat",
            "Sat 7",
            "tomorrow",
            "31 Feb 08:00",
            "Mon Tue 08:00",
            "202611-11-07T07:10",
            "0026-11-07T07:10",
            "7 8 08:00",
            "3 Jan 2028",
        ] {
            assert_eq!(local.read_when(nonsense, now, Lies::Ahead), None, "{nonsense}");
        }
    }

    #[test]
    fn what_is_written_is_read_back() {
        let now: Timestamp = NOW.parse().unwrap();
        for clock in Clock::ALL {
            let local = Local::of(&Kitchen { units: Units { clock, ..Units::METRIC }, zone: "Europe/London".into(), ..Kitchen::default() });
            for hours in -400..400 {
                let t = now.checked_add(jiff::SignedDuration::from_mins(hours * 67)).unwrap();
                let text = local.when(t, now);
                let lies = if t < now { Lies::Behind } else { Lies::Ahead };
                assert_eq!(local.read_when(&text, now, lies), Some(t), "{text}");
            }
        }
        assert_eq!(local().when("2026-11-07T07:10:00Z".parse().unwrap(), now), "tomorrow 07:10");
        assert_eq!(local().when("2027-01-03T08:00:00Z".parse().unwrap(), now), "Sun 3 Jan 2027 08:00");
    }
}
