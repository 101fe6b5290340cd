//! What a log tells: the events that count, and what has happened by them.

use super::{Event, EventKind};
use crate::{
    ferment::RiseKind,
    kitchen::{Kitchen, Place, Stay},
    knead::WindowWord,
    plan::{Actual, Look, Seen},
};

/// The events that count: undone ones out, in order of time, then of number.
pub(super) fn kept(log: &[Event]) -> Vec<&Event> {
    let undone: Vec<i32> = log.iter().filter_map(|e| e.event.undoes()).collect();
    let mut kept: Vec<&Event> = log.iter().filter(|e| e.event.kind != EventKind::Undo && !undone.contains(&e.seq)).collect();
    // A phone may report late.
    kept.sort_by_key(|e| (e.event.at, e.seq));
    kept
}

/// What has happened by events that count, for working the course out again.
pub(super) fn told_by(events: &[&Event], kitchen: &Kitchen) -> Actual {
    let mut a = Actual::default();
    let mut place = None;
    for e in events {
        let (at, body) = (e.event.at, &e.event.body);
        match e.event.kind {
            EventKind::Mixed => a.mixed = Some(at),
            EventKind::Fold => a.folds.push(at),
            EventKind::KnockBack => a.knocks.push(at),
            EventKind::Shaped => {
                a.shaped = Some(at);
                (a.ripe, a.not_yet) = (None, None);
            }
            EventKind::OvenOn => a.lit = Some(at),
            EventKind::Loaded => a.loads.push(at),
            EventKind::Out => a.outs.push(at),
            EventKind::Ripe | EventKind::Over => {
                a.ripe = Some(at);
                a.seen.extend(look(e));
            }
            EventKind::NotYet => {
                (a.not_yet, a.ripe) = (Some(at), None);
                a.seen.extend(look(e));
            }
            EventKind::Replanned => a.rest.clone_from(&body.rest),
            EventKind::Moved => {
                place = body.what.as_deref().and_then(Place::from_word);
                if let Some(c) = place.and_then(|p| kitchen.warmth_from(p, at)) {
                    a.places.extend(place.map(|p| Stay::at((p, c), at)));
                }
            }
            EventKind::Temperature => match (body.stage.as_deref(), body.value) {
                (Some("dough"), Some(c)) => a.dough_c.push((at, c)),
                (Some(stage), Some(c)) if Place::from_word(stage) == Some(place.unwrap_or(Place::Room)) => {
                    a.places.push(Stay::at((place.unwrap_or(Place::Room), c), at));
                }
                _ => {}
            },
            EventKind::Note => a.bowl.extend(body.told_step().filter(|act| act.is_at_bowl()).map(|act| (act, at))),
            EventKind::Window => {
                let word = body.what.as_deref().and_then(WindowWord::from_word);
                a.windows.extend(word.map(|word| (word, at)));
            }
            EventKind::Weighed
            | EventKind::Added
            | EventKind::Divided
            | EventKind::SteamOff
            | EventKind::Turned
            | EventKind::Foil
            | EventKind::LidOff
            | EventKind::Core
            | EventKind::Sliced
            | EventKind::Colour
            | EventKind::Rating
            | EventKind::Fault
            | EventKind::Undo => {}
        }
    }
    a
}

/// A look at a rise of the dough.
fn look(e: &Event) -> Option<Seen> {
    let body = &e.event.body;
    let kind = match body.stage.as_deref() {
        Some("bulk") => RiseKind::Bulk,
        Some("proof") => RiseKind::Proof,
        _ => return None,
    };
    let look = match e.event.kind {
        EventKind::Over => Look::Over,
        EventKind::NotYet => Look::NotYet,
        _ if body.seen.as_deref() == Some("already") => Look::Already,
        _ => Look::Ripe,
    };
    Some(Seen { at: e.event.at, kind, look })
}
