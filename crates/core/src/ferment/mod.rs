//! The rise: dough time against clock time, gas, volume, ripeness, and the moments a baker waits for.
//!
//! Model, constants and their marks: `docs/science.md`, section "The rise".

mod band;
mod constants;
mod dough;
mod events;
pub mod findings;
mod forecast;
mod group;
mod leaven;
mod rate;
mod request;
mod simulate;
mod surroundings;

pub use band::BandRow;
pub(crate) use band::Z as TENTH;
pub use constants::{Constants, FlourClass, MixerRow, Numbers, PaceWords, RiseStyle};
pub(crate) use dough::osmolality;
pub use dough::{Body, Dough, LeavenState, YeastDose, free_gas, osmotic_factor};
pub use events::{Event, EventKind};
pub use forecast::{Forecast, Living, Moment, Row};
pub use leaven::{Leaven, simulate_leaven};
pub use rate::{Population, Rate, survivors};
pub use request::{Act, FOLD, KNOCK_BACK, Pace, Rise, RiseKind, RiseStage, lay_acts, time_constant_min};
pub use simulate::{Simulation, course, dough_hours_along, simulate};
