use std::time::{Duration, Instant};

use jiff::Timestamp;

/// The clock of the program: the system's, or one that starts where it is told and runs faster.
#[derive(Debug, Clone, Copy)]
pub struct Clock {
    told: Option<(Timestamp, Instant, u32)>,
}

impl Clock {
    /// The system's clock.
    #[must_use]
    pub const fn system() -> Self {
        Self { told: None }
    }
    /// Starts at `at` and runs `speed` times as fast; 0 stands still.
    #[must_use]
    pub fn starting(at: Timestamp, speed: u32) -> Self {
        Self { told: Some((at, Instant::now(), speed)) }
    }
    /// Now.
    #[must_use]
    pub fn now(&self) -> Timestamp {
        match self.told {
            None => Timestamp::now(),
            Some((at, since, speed)) => {
                let run: Duration = since.elapsed().saturating_mul(speed);
                at.checked_add(run).unwrap_or(at)
            }
        }
    }
}
