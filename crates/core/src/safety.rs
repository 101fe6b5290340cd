//! What is said where work can hurt: each caution once, the same on every page, sheet and answer. All common practice, no
//! source, where nothing else is said; food safety defers to the local authority.

use crate::findings::Rule;

macro_rules! authority {
    () => {
        "For food safety follow your local authority; it may ask for more."
    };
}
pub(crate) use authority;

/// Who is to be asked.
pub const AUTHORITY: &str = authority!();
/// Steam in the oven.
pub const STEAM: &str = "Steam burns: stand aside, open slowly at arm's length, dry gloves. No water on the oven glass or lamp.";
/// A pot or lid out of the oven.
pub const HOT_POT: &str = "The pot looks cold and is as hot as the oven. Two dry mitts; leave a mitt on the lid.";
/// The lid comes off in the oven.
pub const LID_OFF: &str = "Lid away from you, two dry mitts; leave a mitt on it.";
/// A dish of glass.
pub const GLASS: &str = "Never cold glass into a hot oven, nor hot glass onto a wet or cold surface.";
/// A bath of soda, and what it is not.
pub const SODA_BATH: &str = "Soda bath: spoon the soda in off the heat, little by little: it boils over. Half fill the pot, no aluminium, \
    keep it off skin and eyes. Lye is another thing: it burns, and is never meant here.";
/// Lye. CLP H314 for sodium hydroxide, from memory.
pub const LYE: &str = "Lye burns skin and eyes. Goggles, gloves, long sleeves; lye into cold water, never water onto lye; never aluminium.";
/// Raw egg in dough or glaze.
pub const RAW_EGG: &str = concat!("Raw egg: wash hands, keep the glaze cold, throw the rest away after 2 h. ", authority!());
/// Raw flour in the dough.
pub const RAW_FLOUR: &str = "Flour is raw: do not taste the dough, wash hands and bowls.";
/// A bath of water that simmers.
pub const SIMMERING: &str = "Simmering water scalds: a skimmer, and nobody small at the stove.";
/// Boiling syrup.
pub const SYRUP: &str = "Boiling syrup sticks and burns: a brush with a long handle.";
/// A mixer that kneads.
pub const MIXER: &str = "Stay with the mixer: it walks. Never reach into the moving bowl; stop it before you scrape.";
/// The blade a loaf is cut with.
pub const BLADE: &str = "A fresh blade cuts fingers as well: away from you, and back in its case.";
/// Dough with egg or milk left warm.
pub const LEFT_WARM: &str =
    concat!("Bacteria grow in egg and milk left warm; baking kills them, some of their poisons stay. ", authority!());

/// Egg or milk in the warm for too long.
pub(crate) const EGG_MILK_WARM: Rule =
    Rule::new("raw-egg-time", LEFT_WARM, "FDA Food Code 2017 3-501.19 and the two-hour/four-hour rule (FSANZ), both from memory");
