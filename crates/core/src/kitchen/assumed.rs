//! What a household has not told yet: its figures are as is usual, and marked as assumed until they are told.

use super::Kitchen;

words! {
    /// A figure that is assumed until it is told.
    Assumed {
        Room "room" "how warm the room is",
        Pantry "pantry" "how cool the pantry is",
        Fridge "fridge" "how cold the fridge is",
        OvenLight "oven-light" "how warm the oven is with its light on",
        Tap "tap" "how cold the tap water is",
        Flour "flour" "how warm the flour is",
        OvenOffset "oven-offset" "that the oven’s dial is true",
        Mixer "mixer" "how it is kneaded",
        ScaleStep "scale-step" "how fine the scale is",
        Altitude "altitude" "how high above the sea it is",
    }
}

impl Assumed {
    /// The figure’s own name among those of the kitchen.
    #[must_use]
    pub const fn figure(self) -> &'static str {
        match self {
            Self::Room => "room_c",
            Self::Pantry => "pantry_c",
            Self::Fridge => "fridge_c",
            Self::OvenLight => "oven_light_c",
            Self::Tap => "tap_c",
            Self::Flour => "flour_c",
            Self::OvenOffset => "offset_c",
            Self::Mixer => "mixer",
            Self::ScaleStep => "scale_step_g",
            Self::Altitude => "altitude_m",
        }
    }

    /// Whether this figure is another one in a kitchen than before.
    #[allow(clippy::float_cmp, reason = "what was not touched is the same to the last bit")]
    fn differs(self, before: &Kitchen, now: &Kitchen) -> bool {
        match self {
            Self::Room => before.room_c != now.room_c,
            Self::Pantry => before.pantry_c != now.pantry_c,
            Self::Fridge => before.fridge_c != now.fridge_c,
            Self::OvenLight => before.oven_light_c != now.oven_light_c,
            Self::Tap => before.tap_c != now.tap_c,
            Self::Flour => before.flour_c != now.flour_c,
            Self::OvenOffset => before.oven.offset_c != now.oven.offset_c,
            Self::Mixer => before.mixer != now.mixer,
            Self::ScaleStep => before.scale_step_g != now.scale_step_g,
            Self::Altitude => before.altitude_m != now.altitude_m,
        }
    }
}

impl Kitchen {
    /// What is still assumed once this kitchen has become that one: a figure that was changed is told.
    pub(super) fn still_assumed(&self, now: &Self) -> Vec<Assumed> {
        self.assumed.iter().copied().filter(|a| !a.differs(self, now)).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::kitchen::{FirstAnswers, KitchenBody};

    #[test]
    fn a_figure_is_assumed_until_it_is_told() {
        let untold = Kitchen::untold("UTC".into());
        assert_eq!(untold.assumed, Assumed::ALL);
        let evening = FirstAnswers::usual("en-GB").told().over(untold).unwrap();
        for (told, asked) in [(Assumed::Room, true), (Assumed::Pantry, true), (Assumed::Tap, false), (Assumed::Fridge, false)] {
            assert_eq!(!evening.assumed.contains(&told), asked, "{told:?}");
        }
        // The form sends all figures: only one that changed is told by it.
        let sent = KitchenBody { assumed: None, tap_c: Some(9.0), ..KitchenBody::from(&evening) };
        let next = sent.over(evening.clone()).unwrap();
        assert!(!next.assumed.contains(&Assumed::Tap) && next.assumed.contains(&Assumed::Fridge));
        assert_eq!(next.assumed.len() + 1, evening.assumed.len());
        let all = KitchenBody { assumed: Some(Vec::new()), ..KitchenBody::default() }.over(next).unwrap();
        assert!(all.assumed.is_empty() && all.is_told());
    }
}
