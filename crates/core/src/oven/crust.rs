//! The crust a bread has where nobody says what is wished.

use super::{Bake, BakeClass, Crust, Kind};

/// From this richness on a lean dough in a tin, cup or touching batch is a soft sandwich loaf: `soft_pan_rich` of
/// `data/baking.json`, where its source stands.
const SOFT_PAN_RICH: f64 = 2.0;

impl Bake {
    /// The crust, wished or usual.
    #[must_use]
    pub fn crust(&self) -> Crust {
        let held = matches!(Kind::of(self), Kind::Box | Kind::Cup | Kind::Batch);
        self.crust.unwrap_or(match self.class() {
            BakeClass::Lean if held && self.rich() >= SOFT_PAN_RICH => Crust::Soft,
            BakeClass::Lean | BakeClass::Rye => Crust::Crisp,
            BakeClass::Enriched | BakeClass::Brioche | BakeClass::Wholegrain | BakeClass::GlutenFree => Crust::Soft,
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_soft_sandwich_loaf_is_as_rich_as_the_table_says() {
        let table: serde_json::Value = serde_json::from_str(include_str!("../../data/baking.json")).unwrap();
        let found = table.as_object().unwrap().values().find_map(|group| group.get("soft_pan_rich")).unwrap();
        assert_eq!(found["value"], SOFT_PAN_RICH);
    }
}
