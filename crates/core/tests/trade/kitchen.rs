//! The kitchen's places and figures.

use cerealis_core::kitchen::{Kitchen, Place};

use super::bench::places;

#[test]
fn a_usual_kitchen_is_sound() {
    assert!(Kitchen::default().check().is_ok());
}

#[test]
fn places_go_by_their_words() {
    for place in Place::ALL {
        assert_eq!(Place::from_word(place.word()), Some(place));
        assert!(!place.name().is_empty());
    }
    assert_eq!(Place::from_word("lighthouse"), None);
}

#[test]
fn a_place_the_household_lacks_is_not_offered() {
    let k = Kitchen { proof_box_c: None, oven_light_c: Some(28.0), ..Kitchen::default() };
    let has: Vec<Place> = k.places().into_iter().map(|(p, _)| p).collect();
    assert!(!has.contains(&Place::ProofBox) && has.contains(&Place::OvenLight));
    assert_eq!(k.place_c(Place::ProofBox), None);
    assert_eq!(k.place_c(Place::OvenLight), Some(28.0));
}

#[test]
fn figures_no_kitchen_has_are_refused_where_they_stand() {
    for (wrong, place) in [
        (Kitchen { room_c: 80.0, ..Kitchen::default() }, "/places/room_c"),
        (Kitchen { room_c: f64::NAN, ..Kitchen::default() }, "/places/room_c"),
        (Kitchen { pantry_c: Some(-40.0), ..Kitchen::default() }, "/places/pantry_c"),
        (Kitchen { fridge_c: Some(61.0), ..Kitchen::default() }, "/places/fridge_c"),
        (Kitchen { proof_box_c: Some(90.0), ..Kitchen::default() }, "/places/proof_box_c"),
        (Kitchen { oven_light_c: Some(-21.0), ..Kitchen::default() }, "/places/oven_light_c"),
        (Kitchen { altitude_m: 9000.0, ..Kitchen::default() }, "/altitude_m"),
        (Kitchen { zone: "Skerry/Light".into(), ..Kitchen::default() }, "/zone"),
    ] {
        assert_eq!(places(&wrong.check().unwrap_err()), [place]);
    }
}
