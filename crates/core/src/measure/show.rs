//! Cutting digits: as many as are known, and no more.

use super::Band;

/// Digits grouped by a thin space from 1 000 on.
#[must_use]
pub fn thousands(digits: &str) -> String {
    let (whole, rest) = digits.split_once('.').map_or((digits, None), |(w, r)| (w, Some(r)));
    let bare = whole.trim_start_matches('-');
    let mut grouped = String::new();
    for (i, digit) in bare.chars().enumerate() {
        if i > 0 && bare.len() > 3 && (bare.len() - i) % 3 == 0 {
            grouped.push('\u{2009}');
        }
        grouped.push(digit);
    }
    let is_something = digits.chars().any(|c| matches!(c, '1'..='9'));
    let minus = if whole.starts_with('-') && is_something { "\u{2212}" } else { "" };
    rest.map_or_else(|| format!("{minus}{grouped}"), |r| format!("{minus}{grouped}.{r}"))
}

/// How warm a place or a dough is, °C, to the tenth a kitchen thermometer shows: `19.5`, `21`.
#[must_use]
pub fn show_degrees(celsius: f64) -> String {
    let tenths = to_nearest(celsius, 0.1);
    show(tenths, usize::from((tenths - tenths.round()).abs() > 0.01))
}

/// Minutes to the half: `6½`, `3`, `½`.
#[must_use]
pub fn show_half(minutes: f64) -> String {
    let halves = to_nearest(minutes, 0.5);
    let (whole, half) = (halves.floor(), halves.fract() > 0.25);
    match (whole, half) {
        (_, false) => show(whole, 0),
        (w, true) if w < 0.5 => "½".to_owned(),
        (w, true) => format!("{}½", show(w, 0)),
    }
}

/// Rounds half up to a multiple of `step`.
#[must_use]
pub fn to_nearest(value: f64, step: f64) -> f64 {
    (value / step + 0.5).floor() * step
}

/// Grams as a kitchen scale can show them: what a button says is what it sets.
#[must_use]
pub fn weighable(grams: f64) -> f64 {
    to_nearest(
        grams,
        if grams >= 10.0 {
            1.0
        } else if grams >= 1.0 {
            0.1
        } else {
            0.01
        },
    )
}

/// A figure from tables of food, which are good to about a twentieth: two or three digits, no more.
#[must_use]
pub fn show_rough(value: f64, decimals: usize) -> String {
    let step = match decimals {
        0 if value >= 1000.0 => 50.0,
        0 if value >= 100.0 => 10.0,
        0 => 1.0,
        _ if value >= 9.95 => 1.0,
        _ => 0.1,
    };
    let shown = to_nearest(value, step);
    fixed(shown, if shown >= 10.0 { 0 } else { decimals })
}

/// Money: two digits after the point below 100, none above.
#[must_use]
pub fn show_money(value: f64, currency: &str) -> String {
    let figure = fixed(value, if value < 99.995 { 2 } else { 0 });
    if currency.is_empty() { figure } else { format!("{figure}\u{a0}{currency}") }
}

/// A range of such figures; one figure where both ends look alike.
#[must_use]
pub fn show_rough_range(band: Band, decimals: usize) -> String {
    let (low, high) = (show_rough(band.low, decimals), show_rough(band.high, decimals));
    if low == high { low } else { format!("{low}–{high}") }
}

fn fixed(value: f64, decimals: usize) -> String {
    let scale = 10f64.powi(i32::try_from(decimals).unwrap_or(0));
    let rounded = (value * scale + 0.5 * value.signum()).trunc() / scale;
    thousands(&format!("{rounded:.decimals$}"))
}

/// A figure with `decimals` digits after the point, half rounded away from zero.
#[must_use]
pub fn show(value: f64, decimals: usize) -> String {
    fixed(value, decimals)
}

/// Grams: whole from 10 g on, tenths below, hundredths below a gram (a scale shows no more).
#[must_use]
pub fn show_grams(grams: f64) -> String {
    if grams >= 9.95 || grams == 0.0 {
        fixed(grams, 0)
    } else if grams >= 0.995 {
        let tenths = fixed(grams, 1);
        tenths.strip_suffix(".0").map_or_else(|| tenths.clone(), str::to_owned)
    } else {
        fixed(grams, 2)
    }
}

/// Percent on flour: whole from 10 on, one decimal below, two below a half.
#[must_use]
pub fn show_percent(percent: f64) -> String {
    let decimals = if percent >= 9.95 || percent == 0.0 {
        0
    } else if percent >= 0.495 {
        1
    } else {
        2
    };
    fixed(percent, decimals)
}

/// What stands beside a weight after `±`, one significant digit, or nothing where it is exact or below a fiftieth.
#[must_use]
pub fn spread(band: Band) -> Option<f64> {
    let half = band.half_width();
    (half >= 0.02 * band.likely && half > 0.0).then(|| {
        if half >= 10.0 {
            to_nearest(half, 5.0)
        } else if half >= 0.95 {
            half.round()
        } else {
            to_nearest(half, 0.1)
        }
    })
}

/// A gap between two times that are known to the minute: minutes, from an hour and a half on hours too, from two days on days and
/// hours.
#[must_use]
pub fn show_gap(minutes: f64) -> String {
    let whole = minutes.abs().round();
    let joined = |much: f64, of: &str, rest: f64, unit: &str| {
        let more = if rest > 0.0 { format!(" {} {unit}", fixed(rest, 0)) } else { String::new() };
        format!("{} {of}{more}", fixed(much, 0))
    };
    if whole < 90.0 {
        format!("{} min", fixed(whole, 0))
    } else if whole < 2880.0 {
        joined((whole / 60.0).floor(), "h", whole % 60.0, "min")
    } else {
        let hours = (whole / 60.0).round();
        joined((hours / 24.0).floor(), "days", hours % 24.0, "h")
    }
}

/// A time that is only roughly known: minutes to five under two hours, then hours to the half, whole from eight on, days from two
/// on.
#[must_use]
pub fn show_minutes(minutes: f64) -> String {
    if minutes >= 2850.0 {
        return format!("{} days", fixed((minutes / 1440.0).round(), 0));
    }
    if minutes < 117.5 {
        return format!("{} min", fixed(to_nearest(minutes, 5.0).max(5.0), 0));
    }
    let halves = to_nearest(minutes / 60.0, if minutes < 480.0 { 0.5 } else { 1.0 });
    format!("{}{} h", fixed(halves.floor(), 0), if halves.fract() > 0.0 { "½" } else { "" })
}

/// Step in minutes to which a forecast with this width is shown: under 2 h 5, under 8 h 15, else 30.
#[must_use]
pub fn show_clock_span(width_min: f64) -> f64 {
    if width_min < 120.0 {
        5.0
    } else if width_min < 480.0 {
        15.0
    } else {
        30.0
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_gap_is_told_as_one_says_it() {
        for (minutes, words) in [
            (4.0, "4 min"),
            (-89.4, "89 min"),
            (90.0, "1 h 30 min"),
            (1001.0, "16 h 41 min"),
            (1080.0, "18 h"),
            (2880.0, "2 days"),
            (4400.0, "3 days 1 h"),
        ] {
            assert_eq!(show_gap(minutes), words);
        }
        for (minutes, words) in [(1001.0, "17 h"), (2840.0, "47 h"), (2850.0, "2 days"), (10_000.0, "7 days")] {
            assert_eq!(show_minutes(minutes), words);
        }
    }

    #[test]
    fn a_scale_shows_what_it_can_weigh() {
        assert_eq!(show_grams(500.4), "500");
        assert_eq!(show_grams(1130.0), "1\u{2009}130");
        assert_eq!(show_grams(4.25), "4.3");
        assert_eq!(show_grams(4.0), "4");
        assert_eq!(show_grams(9.96), "10");
        assert_eq!(show_grams(0.4), "0.40");
        assert_eq!(show_percent(66.4), "66");
        assert_eq!(show_percent(2.0), "2.0");
        assert_eq!(show_percent(0.15), "0.15");
        assert_eq!(show(12.5, 0), "13");
        assert_eq!(show(-3.0, 0), "\u{2212}3");
        assert_eq!(show(-0.2, 0), "0");
        assert_eq!(show(-0.5, 1), "\u{2212}0.5");
    }

    #[test]
    fn a_spread_is_shown_only_where_it_matters() {
        assert_eq!(spread(Band::new(450.0, 500.0, 560.0)), Some(55.0));
        assert_eq!(spread(Band::new(5.0, 12.0, 13.8)), Some(4.0));
        assert_eq!(spread(Band::exact(12.0)), None);
        assert_eq!(spread(Band::new(338.0, 339.0, 341.0)), None);
    }

    #[test]
    fn the_wider_the_forecast_the_coarser_the_clock() {
        assert_eq!([60.0, 120.0, 479.0, 480.0].map(show_clock_span), [5.0, 15.0, 15.0, 30.0]);
    }
}
