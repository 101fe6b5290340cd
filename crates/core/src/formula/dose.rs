//! How much yeast or leaven makes a dough ripe in the hours one has.

use super::{Analysis, Formula, Line, Raising, dough_of};
use crate::{
    Tables,
    ferment::{Dough, Event, EventKind, Pace, Rise, RiseKind, RiseStage, TENTH, course, simulate},
    measure::{Band, degrees, show, weighable},
    pantry::Family,
};

/// The least and the most of what stands in the formula that is tried.
const FACTORS: (f64, f64) = (0.02, 30.0);
/// Halvings of that range: its three decades to within a thousandth.
const HALVINGS: u32 = 22;
/// Water and flour may be moved between leaven and dough down to this, grams.
const LEAST_G: f64 = 1.0;

/// When the first rise of this dough is ripe, or its only one, left at one place from the mix on.
///
/// `None` where the model refuses the dough, or nothing in it rises.
#[must_use]
pub fn ripe_at(a: &Analysis<'_>, mix_c: f64, place_c: f64, tables: &Tables) -> Option<Event> {
    let forecast = simulate(&rise(a, 1.0, mix_c, place_c, false, tables)?, &tables.ferment).ok()?;
    forecast.events.into_iter().find(|e| e.kind.is_ripe())
}

/// When that rise is over, where its style has a window of its own that is long past ripe: a dough meant to stand for a night.
#[must_use]
pub fn over_at(a: &Analysis<'_>, mix_c: f64, place_c: f64, tables: &Tables) -> Option<Event> {
    tables.ferment.styles.get(a.style.id.word())?.bulk_over?;
    let forecast = simulate(&rise(a, 1.0, mix_c, place_c, false, tables)?, &tables.ferment).ok()?;
    forecast.events.into_iter().find(|e| e.kind == EventKind::OverRipe)
}

/// When the pieces are ripe, minutes after shaping, where both rises stand at one place; as [`ripe_at`].
#[must_use]
pub fn proof_at(a: &Analysis<'_>, mix_c: f64, place_c: f64, tables: &Tables) -> Option<Event> {
    let forecast = simulate(&rise(a, 1.0, mix_c, place_c, true, tables)?, &tables.ferment).ok()?;
    let start = forecast.stage_starts.last().copied()?;
    let ripe = forecast.events.into_iter().find(|e| e.kind == EventKind::ProofRipe)?;
    // The event's own range is that of the whole course from the mix on; here only the proof's speed is in doubt.
    let (_, sigma) = forecast.rises.last().copied()?;
    let min = ripe.min - start;
    let spread = (TENTH * sigma).exp();
    Some(Event { min, min_low: Some(min / spread), min_high: Some(min * spread), ..ripe })
}

/// Its first rise, or its only one, and with `through` the proof after it; with so many times the yeast or, where
/// there is none, the leaven.
fn rise(a: &Analysis<'_>, factor: f64, mix_c: f64, place_c: f64, through: bool, tables: &Tables) -> Option<Rise> {
    let style = a.style.id.word();
    let has_bulk = a.has_first_rise(&tables.ferment);
    let mut dough = dough_of(a, &tables.pantry, None);
    dough.dose(a.raising()?, factor);
    let stage = |kind: RiseKind, mass_g: f64| RiseStage {
        pace: Some(Pace::Usual),
        vessel: Some("bowl".to_owned()),
        ..RiseStage::until_ripe(kind, place_c, mass_g)
    };
    let dough_g = a.dough_g.likely;
    let bulk = has_bulk.then(|| stage(RiseKind::Bulk, dough_g));
    let proof = (through || !has_bulk).then(|| stage(RiseKind::Proof, a.piece_g()));
    let stages = bulk.into_iter().chain(proof).collect();
    let rise = Rise { style: style.to_owned(), dough, start_c: mix_c, stages, rate: 1.0, log_sigma: None };
    rise.assume(dough_g, &tables.ferment).ok()
}

/// How many times its yeast, or its leaven, makes the dough ripe `hours` after mixing at `place_c`.
///
/// # Errors
/// A sentence: nothing in it rises; no dose of the kitchen gets there.
pub fn dose_for(a: &Analysis<'_>, hours: f64, mix_c: f64, place_c: f64, tables: &Tables) -> Result<f64, String> {
    if a.raising().is_none() {
        return Err("There is neither yeast nor leaven in it to change.".to_owned());
    }
    let minutes = |factor: f64| course(&rise(a, factor, mix_c, place_c, false, tables)?, &tables.ferment).ok()?.ripe_min();
    let target = 60.0 * hours;
    let (mut low, mut high) = FACTORS;
    let too_slow = minutes(high).is_none_or(|m| m > target);
    if too_slow {
        return Err(format!(
            "At {} no dose makes it ripe in {} h: give it more time, or a warmer place.",
            degrees(place_c).to(1),
            show(hours, 1)
        ));
    }
    if minutes(low).is_some_and(|m| m < target) {
        return Err(format!("At {} even a trace of it is ripe before {} h: a cooler place.", degrees(place_c).to(1), show(hours, 1)));
    }
    for _ in 0..HALVINGS {
        let middle = (low * high).sqrt();
        if minutes(middle).is_none_or(|m| m > target) { low = middle } else { high = middle }
    }
    Ok((low * high).sqrt())
}

impl Analysis<'_> {
    /// The dose of what raises it, percent: instant yeast on flour, or flour in leaven; 0 where nothing does.
    #[must_use]
    pub fn dose_pct(&self) -> f64 {
        match self.raising() {
            Some(Raising::Yeast) => self.yeast_instant_pct.likely,
            Some(Raising::Leaven) => self.leaven_flour_pct.likely,
            None => 0.0,
        }
    }

    /// Grams of what raises it.
    #[must_use]
    pub fn dose_g(&self) -> f64 {
        self.raising().map_or(0.0, |by| self.formula.lines.iter().filter(|l| l.raises(by)).map(|l| l.grams.likely).sum())
    }

    /// The formula with so many times its yeast, or its leaven, whose flour and water come out of the dough so
    /// that percentages stay.
    ///
    /// # Errors
    /// A sentence, where flour or water of the dough does not suffice.
    pub fn dosed(&self, factor: f64) -> Result<Formula, String> {
        let mut dosed = self.formula.clone();
        let Some(by) = self.raising() else { return Ok(dosed) };
        let (mut flour, mut water) = (0.0, 0.0);
        for line in dosed.lines.iter_mut().filter(|l| l.raises(by)) {
            let grams = weighable(line.grams.likely * factor);
            let more = grams - line.grams.likely;
            flour += more * line.ingredient.flour_share;
            water += more * line.ingredient.hydration_share;
            line.grams = Band::exact(grams);
        }
        if by == Raising::Yeast {
            return Ok(dosed);
        }
        for (family, less, name) in [(Family::Flour, flour, "flour"), (Family::Liquid, water, "water")] {
            let main = self.formula.largest(|l| l.in_dough() && !l.is_leaven() && l.ingredient.family == family);
            let line = main.and_then(|i| dosed.lines.get_mut(i));
            let left = line.as_ref().map_or(0.0, |l| l.grams.likely - less);
            match line.filter(|_| left >= LEAST_G) {
                Some(line) => line.grams = Band::exact(weighable(left)),
                None => return Err(format!("So much leaven would take more {name} than the dough has.")),
            }
        }
        Ok(dosed)
    }
}

impl Formula {
    /// The heaviest of the lines that pass a test.
    pub(crate) fn largest(&self, test: impl Fn(&Line) -> bool) -> Option<usize> {
        let lines = self.lines.iter().enumerate().filter(|(_, l)| test(l));
        lines.max_by(|x, y| x.1.grams.likely.total_cmp(&y.1.grams.likely)).map(|(i, _)| i)
    }
}

impl Line {
    /// Whether it is a line of what raises the dough.
    pub(crate) fn raises(&self, by: Raising) -> bool {
        self.in_dough()
            && match by {
                Raising::Yeast => self.ingredient.family == Family::Yeast,
                Raising::Leaven => self.is_leaven(),
            }
    }
}

impl Dough {
    /// So many times its yeast, or its leaven.
    pub fn dose(&mut self, by: Raising, factor: f64) {
        match (by, &mut self.yeast, &mut self.leaven) {
            (Raising::Yeast, Some(yeast), _) => yeast.pct *= factor,
            (Raising::Leaven, _, Some(leaven)) => leaven.0 = (leaven.0 * factor).min(100.0),
            _ => {}
        }
    }
}
