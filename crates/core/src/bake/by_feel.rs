//! Flour and water added by the feel of the dough while it is kneaded.

use super::{ByFeel, Event, EventKind, told::kept};
use crate::{
    formula::{Formula, Line},
    measure::Band,
    pantry::{Fact, Family},
};

/// What was added, grams of flour and of water.
#[must_use]
pub fn added(log: &[Event]) -> (f64, f64) {
    let of = |what: ByFeel| {
        kept(log)
            .iter()
            .filter(|e| e.event.kind == EventKind::Added && e.event.body.what.as_deref() == Some(what.word()))
            .filter_map(|e| e.event.body.value)
            .sum()
    };
    (of(ByFeel::Flour), of(ByFeel::Water))
}

impl Formula {
    /// The dough as it became with so much flour and water more, grams: they go to its main flour and its main liquid.
    #[must_use]
    pub fn by_feel(&self, flour_g: f64, water_g: f64) -> Self {
        let mut became = self.clone();
        let main = |lines: &[Line], is: fn(&Line) -> bool| {
            let all = lines.iter().enumerate().filter(|(_, l)| l.in_dough() && !l.is_prefermented() && is(l));
            all.max_by(|a, b| a.1.grams.likely.total_cmp(&b.1.grams.likely)).map(|(at, _)| at)
        };
        let flour = main(&self.lines, |l| l.ingredient.family == Family::Flour);
        let water =
            main(&self.lines, |l| l.ingredient.is(Fact::Water)).or_else(|| main(&self.lines, |l| l.ingredient.family == Family::Liquid));
        for (at, grams) in [(flour, flour_g), (water, water_g)] {
            if let Some(line) = at.and_then(|at| became.lines.get_mut(at)).filter(|_| grams > 0.0) {
                let more = |g: f64| g + grams;
                line.grams = Band { low: more(line.grams.low), likely: more(line.grams.likely), high: more(line.grams.high) };
            }
        }
        became
    }
}
