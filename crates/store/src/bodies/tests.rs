#![allow(clippy::unwrap_used, reason = "tests")]

use cerealis_core::{bake::EventBody, kitchen::Kitchen};

use super::*;

#[derive(Debug, PartialEq, Serialize, Deserialize)]
struct LampV1 {
    oil_ml: f64,
}
impl Body for LampV1 {
    const VERSION: u32 = 1;
    type Before = Nothing;
    fn lift(before: Nothing) -> Result<Self, Unread> {
        match before {}
    }
}

#[derive(Debug, PartialEq, Serialize, Deserialize)]
struct LampV2 {
    oil_l: f64,
}
impl Body for LampV2 {
    const VERSION: u32 = 2;
    type Before = LampV1;
    fn lift(before: LampV1) -> Result<Self, Unread> {
        Ok(Self { oil_l: before.oil_ml / 1000.0 })
    }
}

#[derive(Debug, PartialEq, Serialize, Deserialize)]
struct LampV3 {
    oil_l: f64,
    wick: String,
}
impl Body for LampV3 {
    const VERSION: u32 = 3;
    type Before = LampV2;
    fn lift(before: LampV2) -> Result<Self, Unread> {
        if before.oil_l < 0.0 {
            return Err(Unread("less than no oil".to_owned()));
        }
        Ok(Self { oil_l: before.oil_l, wick: "flat".to_owned() })
    }
}

#[test]
fn an_old_shape_is_lifted_step_by_step() {
    let lamp = LampV3 { oil_l: 0.5, wick: "flat".to_owned() };
    assert_eq!(shape::<LampV3>(r#"{"oil_ml":500}"#, 1).unwrap(), lamp);
    assert_eq!(shape::<LampV3>(r#"{"v":2,"oil_l":0.5}"#, 2).unwrap(), lamp);
    assert_eq!(shape::<LampV3>(r#"{"v":3,"oil_l":0.5,"wick":"flat"}"#, 3).unwrap(), lamp);
    assert!(matches!(shape::<LampV3>(r#"{"oil_ml":-5}"#, 1), Err(StoreError::Unreadable(why)) if why == "less than no oil"));
    assert!(matches!(shape::<LampV3>("{}", 4), Err(StoreError::Newer)));
    assert!(matches!(shape::<LampV3>("{}", 0), Err(StoreError::Unreadable(_))));
}

#[test]
fn what_is_written_says_its_version_and_is_read_without_one_too() {
    let kitchen = Kitchen { pantry_c: None, fridge_c: Some(3.5), ..Kitchen::default() };
    let text = write(&kitchen).unwrap();
    assert!(text.starts_with(r#"{"v":1,"#), "{text}");
    assert_eq!(read::<Kitchen>(&text).unwrap(), kitchen);
    assert_eq!(read::<Kitchen>(&text.replacen(r#""v":1,"#, "", 1)).unwrap(), kitchen);
    assert!(matches!(read::<Kitchen>(&text.replacen(r#""v":1"#, r#""v":2"#, 1)), Err(StoreError::Newer)));
    // A figure that was not kept yet is as in a new kitchen; one that was taken away stays away.
    assert_eq!(read::<Kitchen>(r#"{"pantry_c":null}"#).unwrap(), Kitchen { pantry_c: None, ..Kitchen::default() });
}

#[test]
fn what_the_core_does_not_know_is_said() {
    let night = r#"{"oven":{"name":"oven","dial":"sundial"}}"#;
    assert!(matches!(read::<Kitchen>(night), Err(StoreError::Unreadable(why)) if why.contains("sundial")));
    assert!(matches!(read::<EventBody>("[]"), Err(StoreError::Unreadable(_))));
}
