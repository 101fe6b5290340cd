//! When it is dark. Equinox and polar facts of astronomy; times from almanacs from memory, to two minutes.

use cerealis_core::kitchen::{Kitchen, KitchenBody, darkness};
use jiff::Timestamp;

fn at(text: &str) -> Timestamp {
    text.parse().unwrap()
}

fn minutes(a: Timestamp, b: Timestamp) -> f64 {
    a.duration_since(b).as_secs_f64().abs() / 60.0
}

/// London, 21 June: sunset 20:21 UTC, sunrise 03:43; 21 December: sunset 15:53, sunrise 08:04 (almanac, from memory).
#[test]
fn the_longest_and_the_shortest_night() {
    let london = (51.5, -0.13);
    let short = darkness(london, at("2026-06-21T18:00:00Z"), at("2026-06-22T06:00:00Z"))[0];
    assert!(minutes(short.from, at("2026-06-21T20:21:00Z")) < 2.5 && minutes(short.to, at("2026-06-22T03:43:00Z")) < 2.5, "{short:?}");
    let long = darkness(london, at("2026-12-21T14:00:00Z"), at("2026-12-22T10:00:00Z"))[0];
    assert!(minutes(long.from, at("2026-12-21T15:53:00Z")) < 2.5 && minutes(long.to, at("2026-12-22T08:04:00Z")) < 2.5, "{long:?}");
}

/// At an equinox day and night are about as long everywhere; by refraction and the sun's own size the night is some
/// minutes the shorter.
#[test]
fn at_an_equinox_night_is_nearly_half_a_day() {
    for latitude in [-60.0, -33.9, 0.0, 40.7, 60.0] {
        let night = darkness((latitude, 0.0), at("2026-03-20T12:00:00Z"), at("2026-03-21T12:00:00Z"))[0];
        let hours = minutes(night.to, night.from) / 60.0;
        assert!((11.6..12.0).contains(&hours), "{latitude}: {hours} h");
    }
}

#[test]
fn in_the_polar_summer_it_is_never_dark() {
    assert!(darkness((78.0, 15.0), at("2026-06-15T00:00:00Z"), at("2026-06-25T00:00:00Z")).is_empty());
}

#[test]
fn every_night_of_a_span_is_there_once_and_in_order() {
    let nights = darkness((57.2, -7.9), at("2026-11-06T12:00:00Z"), at("2026-11-10T12:00:00Z"));
    assert_eq!(nights.len(), 4);
    assert!(nights.iter().all(|n| n.from < n.to) && nights.windows(2).all(|w| w[0].to < w[1].from));
    // The night one stands in is there too.
    let inside = darkness((57.2, -7.9), at("2026-11-07T02:00:00Z"), at("2026-11-07T03:00:00Z"));
    assert_eq!(inside.len(), 1);
    assert_eq!(inside[0], nights[0]);
}

#[test]
fn places_that_are_not_on_the_earth_are_refused_at_their_fields() {
    let wrong = |latitude: Option<f64>, longitude: Option<f64>| {
        let body = KitchenBody { latitude: Some(latitude), longitude: Some(longitude), ..KitchenBody::default() };
        body.over(Kitchen::default()).map_or_else(|e| e.0.iter().map(|f| f.pointer.as_str().to_owned()).collect(), |_| Vec::<String>::new())
    };
    assert!(wrong(Some(57.2), Some(-7.9)).is_empty() && wrong(None, None).is_empty());
    assert_eq!(wrong(Some(91.0), Some(-181.0)), ["/latitude", "/longitude"]);
    assert_eq!(wrong(Some(57.2), None), ["/longitude"]);
    assert_eq!(wrong(None, Some(3.0)), ["/latitude"]);
    assert!(darkness((900.0, 0.0), at("2026-11-06T12:00:00Z"), at("2026-11-07T12:00:00Z")).is_empty());
}
