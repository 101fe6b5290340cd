//! The jar a plan's leaven is from.

use cerealis_core::{
    ferment::LeavenState,
    kitchen::Kitchen,
    leaven::JarState,
    measure::show,
    plan::{StepKind, search::offer::Offer},
};
use cerealis_store::leavens;

use crate::{
    State,
    edge::{Local, PageFailure, on_disk},
};

/// The jars of the household, and the one that is meant.
#[derive(Default)]
pub(super) struct Jars {
    /// Id, name, whether it is the one.
    pub(super) choices: Vec<(String, String, bool)>,
    /// Name of the one, and how it stands if it was ever fed.
    meant: Option<(String, JarState)>,
}

impl Jars {
    /// The jars there are; the one that is named, else the first, is meant.
    pub(super) async fn of(state: &State, kitchen: &Kitchen, named: Option<&str>) -> Result<Self, PageFailure> {
        let named = named.map(str::to_owned);
        let (all, nth, log) = on_disk(&state.db, move |db| {
            let all = leavens::list(db)?;
            let nth = all.iter().position(|j| Some(&j.id) == named.as_ref()).unwrap_or(0);
            let log = all.get(nth).map(|jar| leavens::log(db, &jar.id)).transpose()?;
            Ok((all, nth, log.unwrap_or_default()))
        })
        .await?;
        let t = state.tables();
        let stands = all.get(nth).and_then(|kept| {
            let jar = kept.jar.check(&t.ferment).ok()?;
            Some((jar.name.clone(), jar.state(&log, kitchen, state.clock.now(), &t.ferment)?))
        });
        let choices = all.into_iter().enumerate().map(|(i, j)| (j.id, j.jar.name, i == nth)).collect();
        Ok(Self { choices, meant: stands })
    }

    /// What a feed to come is seeded with where that is not a ripe leaven.
    pub(super) fn spent_seed(&self) -> Option<LeavenState> {
        self.meant.as_ref().and_then(|(_, jar)| jar.spent_seed())
    }

    /// `The leaven is from “Foghorn”, 14 days in the fridge: two feeds, at its best Tue 21:40.`
    pub(super) fn words(&self, o: &Offer, local: &Local) -> Option<String> {
        let (name, jar) = self.meant.as_ref()?;
        o.ask.laid.as_ref()?;
        let feeds = o.course.steps.iter().filter(|s| s.kind == StepKind::Feed).count();
        let ripe = o.course.steps.iter().rfind(|s| s.kind == StepKind::Leaven)?.end;
        let stood = if jar.is_rested() {
            if jar.cold_days < 1.5 { "a day in the fridge".to_owned() } else { format!("{} days in the fridge", show(jar.cold_days, 0)) }
        } else {
            format!("fed {}", local.day_and_clock(jar.fed.at))
        };
        let feeds = match feeds {
            1 if jar.wants_two_feeds() => "one feed is all there is time for; baked later it is fed twice, and stronger".to_owned(),
            1 => "one feed".to_owned(),
            2 => "two feeds".to_owned(),
            n => format!("{n} feeds"),
        };
        let strong =
            if jar.is_rested() { " It is strong again when it doubles after a feed; if it does not, feed it once more first." } else { "" };
        Some(format!(
            "The leaven is from “{name}”, {stood}: {feeds}, at its best {} {}.{strong}",
            local.short_day(ripe),
            local.clock_to(ripe, 5.0)
        ))
    }
}
