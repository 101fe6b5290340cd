//! What the page asks of the search: the answers of its address over the household's hours and places.

use cerealis_core::{
    ferment::Pace,
    input::{Errors, InputErrors, Pointer, number},
    kitchen::{HoursKind, Kitchen, Place, hours::spells},
    plan::{
        later,
        search::{
            ask::{AwayAsk, FitAsk},
            hours::AwayKind,
            schedule::ScheduleFamily,
            want::Want,
        },
    },
};
use jiff::Timestamp;

use super::query::Query;
use crate::edge::{Lies, Local};

/// What was asked, and the baker's hours by their names.
pub(super) struct Asked {
    pub(super) ask: FitAsk,
    /// For each of the hours away its name.
    pub(super) names: Vec<String>,
    pub(super) errands: Vec<(Timestamp, String)>,
}

/// Reads the answers; what cannot be read is told at its field, and the rest is asked all the same.
pub(super) fn asked(q: &Query, kitchen: &Kitchen, now: Timestamp) -> (Asked, Result<(), InputErrors>) {
    let root = Pointer::root();
    let local = Local::of(kitchen);
    let mut errors = Errors::default();
    let mut instant = |name: &str, words: &str| {
        q.get(name).and_then(|text| {
            let read = local.read_when(text, now, Lies::Ahead);
            if read.is_none() {
                errors.add(root.at(name), words);
            }
            read
        })
    };
    let told = instant("ready", "Write day and hour, for example tomorrow 07:10 or Sat 7.30 am.");
    let from = instant("from", "Write day and hour, for example today 18:10.");
    let ripe = instant("ripe", "Write when the leaven is ripe, for example tomorrow 09:00.");
    let soon = q.soon();
    let ready_at = if soon { None } else { Some(told.unwrap_or_else(|| later(now, 1440.0))) };
    let cold_days = match q.get("cold_days").map(number) {
        None => 0.0,
        Some(Ok(days)) => days,
        Some(Err(e)) => {
            errors.add(root.at("leaven").at("cold_days"), e);
            0.0
        }
    };
    let early_min = q.get("early").and_then(|e| errors.keep(root.at("early_min"), number(e)));
    let proof_box = q.get("box").and_then(|b| errors.keep(root.at("kitchen").at("proof_box_c"), number(b)));
    let start = from.unwrap_or(now);
    let until = later(ready_at.unwrap_or_else(|| later(start, 4.0 * 1440.0)), 1440.0);
    let mut ask = FitAsk {
        ready_at,
        fridge: q.get("fridge") != Some("off"),
        lift_warm_limit: q.get("lift").is_some(),
        keep_dose: q.get("dose") == Some("kept"),
        woken: q.get("woken").is_some(),
        want: q.get("want").and_then(Want::from_word),
        early_min,
        cold_days,
        leaven_ripe_at: ripe,
        families: q.get("only").and_then(ScheduleFamily::from_word).map(|f| vec![f]),
        paces: (
            q.get("bulk_pace").and_then(Pace::from_word).unwrap_or_default(),
            q.get("proof_pace").and_then(Pace::from_word).unwrap_or_default(),
        ),
        ..FitAsk::soon(start, kitchen)
    }
    .with_nights(kitchen);
    if let Some(loads) = q.get("loads") {
        // What is no number of loads is refused by the check of the request.
        ask.loads = loads.parse().unwrap_or(0);
    }
    // The fridge stays known, so that it can be offered as a way out.
    ask.places.retain(|(place, _)| *place == Place::Fridge || q.get(place.word()) != Some("off"));
    if let Some(c) = proof_box {
        ask.places.retain(|p| p.0 != Place::ProofBox);
        ask.places.push((Place::ProofBox, c));
    }
    let (mut names, mut errands) = (Vec::new(), Vec::new());
    for s in spells(&kitchen.kept_hours(), local.zone(), start, until) {
        let kind = match s.kind {
            HoursKind::Asleep => AwayKind::Asleep,
            HoursKind::Away => AwayKind::Away,
            HoursKind::Busy => AwayKind::Busy,
            HoursKind::Errand => {
                errands.push((s.from, s.name));
                continue;
            }
        };
        ask.away.push(AwayAsk { from: s.from, to: s.to, kind });
        names.push(s.name);
    }
    // One of these hours may have been asked to give: its number, from, to.
    if let Some((i, from, to)) = q.get("ease").and_then(eased)
        && let Some(a) = ask.away.get_mut(i)
        && let (Some(from), Some(to)) = (local.read_field(from), local.read_field(to))
    {
        (a.from, a.to) = (from, to);
    }
    let form = errors.finish(()).and_then(|()| ask.check());
    (Asked { ask, names, errands }, form)
}

fn eased(text: &str) -> Option<(usize, &str, &str)> {
    let mut parts = text.split('|');
    Some((parts.next()?.parse().ok()?, parts.next()?, parts.next()?))
}
