//! What holds for every quantity in whatever units: said and read back it is the same, and as data it is metric.

use cerealis_core::measure::{
    Asked, Clock, Decimal, Quantity, System, Temperature, Units, WeekStart, Weight, degrees, difference, hour_of_day, length, plain, say,
    setting, typed, typed_hour, volume, weight,
};
use proptest::prelude::*;

fn units() -> impl Strategy<Value = Units> {
    let of = |(system, temperature, weight, clock, decimal): (usize, usize, usize, usize, usize)| Units {
        system: System::ALL[system],
        temperature: Temperature::ALL[temperature],
        weight: Weight::ALL[weight],
        clock: Clock::ALL[clock],
        decimal: Decimal::ALL[decimal],
        week_start: WeekStart::Monday,
    };
    (0..3usize, 0..2usize, 0..2usize, 0..2usize, 0..2usize).prop_map(of)
}

proptest! {
    /// What a field shows is read back as the same, to what it shows of it.
    #[test]
    fn a_field_is_read_back_as_it_was(units in units(), c in -20.0..300.0f64, g in 1.0..20_000.0f64, ml in 30.0..20_000.0f64, cm in 1.0..80.0f64) {
        for (asked, value, off) in [
            (Asked::Degrees, c, 0.06),
            (Asked::Difference, c / 10.0, 0.06),
            // An eighth of an ounce, half of it either way; below an ounce a hundredth.
            (Asked::Grams, g, if g < 28.0 { 0.15 } else { 1.8 }),
            (Asked::Millilitres, ml, 1.6),
            (Asked::Centimetres, cm, 0.17),
        ] {
            let shown = asked.shown(value, &units);
            let back = typed(&shown, asked, &units);
            prop_assert!(back.as_ref().is_ok_and(|b| (b - value).abs() <= off), "{asked:?} {value}: {shown} is read as {back:?}");
        }
    }

    /// A sentence says the same as its quantities alone, and as data it is what the metric words are.
    #[test]
    fn a_sentence_is_said_whole(units in units(), c in -30.0..300.0f64, g in 0.0..30_000.0f64, minute in 0.0..1440.0f64, words in "[a-z ,.]{0,12}") {
        let all: [Quantity; 8] = [
            degrees(c), degrees(c).to(0).short(), setting(c).bare(), difference(c / 10.0), weight(g), volume(g), length(g / 300.0), hour_of_day(minute),
        ];
        for q in all {
            let text = format!("{words}{q}{words}");
            prop_assert_eq!(say(&text, &units).into_owned(), format!("{words}{}{words}", q.said(&units)));
            prop_assert_eq!(plain(&text).into_owned(), format!("{words}{}{words}", q.said(&Units::METRIC)));
            let once = plain(&text).into_owned();
            prop_assert_eq!(plain(&once).into_owned(), once, "said once it stays so");
        }
        prop_assert_eq!(typed_hour(&hour_of_day(minute.floor()).said(&units)).map(f64::from), Some(minute.floor()));
    }

    /// Whatever stands between marks of others: no panic, and no page grows by it.
    #[test]
    fn marks_of_others_do_no_harm(text in "(\u{FFF9}|\u{FFFA}|\u{FFFB}|[a-z0-9 .-]){0,40}", note in "[tsdwvlmah][ugbfn][0-9-]{0,9} -?[0-9]{0,12}") {
        let one = format!("\u{FFF9}x\u{FFFA}{note}\u{FFFB}");
        for said in [plain(&text).into_owned(), plain(&one).into_owned()] {
            prop_assert!(said.len() < 200 && !said.contains(['\u{FFF9}']), "{said}");
        }
    }

    /// Hours are read or refused, never anything in between.
    #[test]
    fn no_hour_is_out_of_the_day(text in "[0-9apm:. h]{0,9}") {
        prop_assert!(typed_hour(&text).is_none_or(|m| m < 1440), "{text}");
    }
}
