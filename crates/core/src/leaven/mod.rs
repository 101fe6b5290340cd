//! The jars of the house: fed when, standing where, how high now; when at its best, and what to feed for
//! an hour to come.

mod event;
mod feed;
mod jar;

pub use event::{JarEvent, JarEventBody, JarEventKind, NewJarEvent};
pub(crate) use feed::RATIOS;
pub use feed::{FeedAsk, FeedPlan, FeedRow, feed_rows, feed_twice, jar_ml};
pub(crate) use jar::{BEST, LONG_COLD_DAYS, OVER, TWO_FEEDS_DAYS};
pub use jar::{Fed, Jar, JarBody, JarState, Use};
