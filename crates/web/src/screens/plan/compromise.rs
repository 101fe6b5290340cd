//! What would have to give where no plan fits.

use cerealis_core::{
    measure::show,
    plan::search::relax::{RelaxKind, Relaxation},
    safety,
};

use super::query::Query;
use crate::edge::Local;

/// Something that would have to give.
pub(super) struct Compromise {
    pub(super) big: String,
    pub(super) unit: &'static str,
    pub(super) words: String,
    pub(super) deed: String,
    pub(super) href: String,
}

pub(super) fn compromise(r: &Relaxation, q: &Query, local: &Local) -> Compromise {
    let mut to = q.without("way").without("shift");
    if let Some(ready) = r.ask.ready_at {
        to = to.with("ready", &local.field(ready));
    }
    let minutes = f64::from(r.minutes);
    let (big, unit) = if r.minutes >= 120 {
        let halves = (minutes / 30.0).round() / 2.0;
        (show(halves, usize::from(halves.fract() > 0.0)), "h")
    } else {
        (show(minutes, 0), "min")
    };
    let (unit, words) = match (r.kind, unit) {
        (RelaxKind::ServeLater, "h") => ("h later", "The same bread, later."),
        (RelaxKind::ServeLater, _) => ("min later", "The same bread, later."),
        (RelaxKind::StartEarlier, "h") => ("h sooner", "It would have to begin before now."),
        (RelaxKind::StartEarlier, _) => ("min sooner", "It would have to begin before now."),
        (RelaxKind::ReadyEarlier, _) => ("earlier", "Baked well before, and kept."),
        (RelaxKind::WakeEarlier, "h") => ("h less sleep", "You get up for it."),
        (RelaxKind::WakeEarlier, _) => ("min less sleep", "You get up for it."),
        (RelaxKind::BedLater, "h") => ("h later to bed", "The evening is longer."),
        (RelaxKind::BedLater, _) => ("min later to bed", "The evening is longer."),
        (RelaxKind::BackEarlier, "h") => ("h sooner home", "Somebody has to be there."),
        (RelaxKind::BackEarlier, _) => ("min sooner home", "Somebody has to be there."),
        (RelaxKind::LeaveLater, "h") => ("h later out", "Somebody has to be there."),
        (RelaxKind::LeaveLater, _) => ("min later out", "Somebody has to be there."),
        (RelaxKind::BusyLess | RelaxKind::BusyLater, "h") => ("h with free hands", "Your hands are full then."),
        (RelaxKind::BusyLess | RelaxKind::BusyLater, _) => ("min with free hands", "Your hands are full then."),
        (RelaxKind::BeWoken, _) => ("min, once, at night", "One act in the night, ten minutes at most."),
        (RelaxKind::ProofBox, _) => ("a warm box", "A box or a cool oven with a bottle of hot water."),
        (RelaxKind::Fridge, _) => ("the fridge", "The dough waits in the cold."),
        (RelaxKind::LiftEggMilkLimit, _) => ("more than 4 h warm", safety::LEFT_WARM),
    };
    let big = if matches!(r.kind, RelaxKind::ProofBox | RelaxKind::Fridge | RelaxKind::LiftEggMilkLimit) { String::new() } else { big };
    match (r.kind, r.with) {
        (RelaxKind::StartEarlier, _) => to = to.with("from", &local.field(r.ask.from)),
        (RelaxKind::ReadyEarlier, _) => to = to.with("early", &show(r.ask.early_min.unwrap_or(720.0), 0)),
        (RelaxKind::BeWoken, _) => to = to.with("woken", "on"),
        (RelaxKind::ProofBox, _) | (_, Some(RelaxKind::ProofBox)) => to = to.with("box", "28"),
        (RelaxKind::Fridge, _) | (_, Some(RelaxKind::Fridge)) => to = to.without("fridge"),
        (RelaxKind::LiftEggMilkLimit, _) | (_, Some(RelaxKind::LiftEggMilkLimit)) => to = to.with("lift", "on"),
        _ => {}
    }
    if let Some((i, a)) = r.window.and_then(|i| r.ask.away.get(i).map(|a| (i, a))) {
        to = to.with("ease", &format!("{i}|{}|{}", local.field(a.from), local.field(a.to)));
    }
    Compromise { big, unit, words: words.to_owned(), deed: r.message.clone(), href: to.address("/plan") }
}
