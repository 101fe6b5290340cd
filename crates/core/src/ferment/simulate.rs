//! The simulation: steps of five minutes over dough temperature, yeast, gas and acid.

use super::{
    Body, Constants, Event, EventKind, Forecast, Living, Numbers, Population, Rise, RiseKind, RiseStage, Row, events::Path, group::Group,
    surroundings::Surroundings, survivors,
};
use crate::input::InputErrors;

#[derive(Debug, Clone, Copy)]
struct DoughState {
    min: f64,
    celsius: f64,
    bakers: Option<Group>,
    wild: Option<Group>,
    lactic: Option<Group>,
    acid: f64,
    made: f64,
    kept: f64,
    free: f64,
}

impl DoughState {
    /// The dough's temperature was taken: it goes on from there.
    fn measured(&mut self, celsius: f64) {
        self.celsius = celsius;
        for g in [&mut self.bakers, &mut self.wild, &mut self.lactic].into_iter().flatten() {
            g.gamma = g.rate.at(celsius);
        }
    }
}

/// What breaks a stage: gas lost by an act, or a temperature taken.
#[derive(Debug, Clone, Copy)]
enum Break {
    Loses(f64),
    Measured(f64),
}

/// One rise: from where ripeness is counted, and how much gas it takes.
#[derive(Debug, Clone, Copy)]
struct Need {
    made0: f64,
    gas: f64,
    /// 1 / gas.
    per_gas: f64,
    volume0: f64,
    fall: f64,
    over: f64,
    kind: RiseKind,
}

impl Need {
    fn ripeness(&self, s: &DoughState) -> f64 {
        (s.made - self.made0) * self.per_gas
    }
}

struct Run<'a> {
    k: &'a Constants,
    body: Body,
    acid_max: f64,
    /// Gas per integral of the amount over growth, of either yeast.
    per_bakers: f64,
    per_wild: f64,
}

impl Run<'_> {
    /// One step of `h` minutes: temperature, populations, acid, gas.
    fn step(&self, s: &mut DoughState, around: &Surroundings, need: &Need, h: f64) {
        let n = &self.k.numbers;
        let gap = s.celsius - around.place_c;
        let (middle, end) = if gap == 0.0 {
            (s.celsius, s.celsius)
        } else {
            let (half, full) = around.decay(h, n);
            let end = gap * full;
            // The last ten-millionth of a degree is left out, so that a settled dough works at one speed.
            (around.place_c + gap * half, if end.abs() < 1e-7 { around.place_c } else { around.place_c + end })
        };
        let hours = h * (1.0 / 60.0);
        let ripeness = need.ripeness(s);
        let mut made = 0.0;
        if let Some(g) = &mut s.bakers {
            made += self.per_bakers * g.step(hours, middle, end);
        }
        if let Some(g) = &mut s.wild {
            made += self.per_wild * g.step(hours, middle, end);
        }
        if let Some(g) = &mut s.lactic {
            let integral = g.step(hours, middle, end);
            s.acid = self.acid_max - (self.acid_max - s.acid) * (-n.lab_acid * integral / (n.lab_growth * self.acid_max)).exp();
        }
        if middle > n.death_from_c {
            let alive = survivors(h, middle, n);
            for g in [&mut s.bakers, &mut s.wild].into_iter().flatten() {
                g.amount *= alive;
            }
        }
        let over = ripeness - need.fall;
        let hold =
            if over > 0.0 { self.body.hold_ml * (1.0 / (1.0 + n.collapse * over * over)).max(n.collapse_keep) } else { self.body.hold_ml };
        let per_hold = 1.0 / (hold * hold);
        let kept = |free: f64| {
            let x2 = free * free * per_hold;
            let x4 = x2 * x2;
            (1.0 - x4) / (1.0 + x4)
        };
        let halfway = (s.kept + 0.5 * made * kept(s.free)).max(0.0);
        s.kept = (s.kept + made * kept(self.body.free_gas(halfway))).max(0.0);
        s.free = self.body.free_gas(s.kept);
        s.made += made;
        s.celsius = end;
        s.min += h;
    }

    fn lose(&self, s: &mut DoughState, share: f64) {
        s.free *= 1.0 - share;
        s.kept = self.body.retained(s.free);
    }

    fn theta(&self, s: &DoughState) -> f64 {
        let main = if self.body.bakers_lead { &s.bakers } else { &s.wild };
        main.as_ref().or(s.wild.as_ref()).or(s.bakers.as_ref()).map_or(0.0, |g| g.theta)
    }

    fn row(&self, s: &DoughState, need: &Need, stage: usize) -> Row {
        let n = &self.k.numbers;
        let volume = self.body.volume_ratio(s.free);
        let acid = s.lactic.is_some().then_some(s.acid);
        Row {
            min: s.min,
            dough_c: s.celsius,
            dough_h: self.theta(s),
            gas_ml: s.made,
            volume_ratio: volume,
            rise_ratio: volume / need.volume0,
            ripeness: need.ripeness(s),
            ph: acid.map(|a| n.ph_floor + (n.ph0 - n.ph_floor) * (-a / self.body.buffer).exp()),
            acid,
            tta: acid.map(|a| n.tta_flour + a * self.body.flour_share / 10.0),
            stage,
        }
    }

    fn need(&self, s: &DoughState, stage: &RiseStage, rise: &Rise) -> Need {
        let n = &self.k.numbers;
        let fresh = self.body.vd_ml + self.body.air_ml;
        let style = self.k.styles.get(&rise.style);
        let over_x = stage.over_x.unwrap_or(1.0);
        let (ratio, fall, over) = match (stage.kind, style) {
            (RiseKind::Leaven, _) | (_, None) => (1.0 + self.body.leaven_ml / fresh, n.leaven_fall_from, n.leaven_falls_at),
            (RiseKind::Bulk, Some(r)) => (r.bulk_ratio.unwrap_or(2.0), r.over * over_x, r.bulk_over.unwrap_or(r.over) * over_x),
            (RiseKind::Proof, Some(r)) => (r.proof_ratio, r.over * over_x, r.over * over_x),
        };
        let target = self.body.retained((stage.target_ratio.unwrap_or(ratio) - 1.0) * fresh);
        let gas = (target - s.kept).max(n.need_floor * target);
        Need { made0: s.made, gas, per_gas: 1.0 / gas, volume0: self.body.volume_ratio(s.free), fall, over, kind: stage.kind }
    }

    /// What was crossed between two states, in the fixed order.
    fn crossed(&self, before: &Row, after: &Row, need: &Need, stage: usize, ahead: bool, found: &mut Vec<Event>) {
        let (ripe, over) = (need.kind.ripe(), need.kind.over());
        let levels = [
            (ripe, before.ripeness, after.ripeness, 1.0),
            (EventKind::Doubled, before.rise_ratio, after.rise_ratio, 2.0),
            (EventKind::Tripled, before.rise_ratio, after.rise_ratio, 3.0),
            (over, before.ripeness, after.ripeness, need.over),
        ];
        for (kind, from, to, level) in levels {
            if from < level && to >= level && !found.iter().any(|e| e.kind == kind) {
                let share = (level - from) / (to - from);
                found.push(Event {
                    kind,
                    stage,
                    ahead,
                    min_low: None,
                    min_high: None,
                    min: before.min + share * (after.min - before.min),
                    dough_h: before.dough_h + share * (after.dough_h - before.dough_h),
                });
            }
        }
    }

    /// Goes on with a rise at its place, to see what would come if it were left standing.
    fn look_ahead(&self, r: &mut Risen) {
        let mut steps = 0.0;
        while steps < self.k.numbers.ahead_steps && r.last.ripeness < r.need.over {
            self.step(&mut r.state, &r.around, &r.need, self.k.numbers.step_min);
            let after = self.row(&r.state, &r.need, r.stage);
            if after.dough_h <= r.last.dough_h {
                break;
            }
            r.path.push(after.min, after.dough_h);
            self.crossed(&r.last, &after, &r.need, r.stage, true, &mut r.found);
            r.last = after;
            steps += 1.0;
        }
    }
}

/// A rise that has come to its end: what was met in it, and the state from which it would go on.
struct Risen {
    stage: usize,
    found: Vec<Event>,
    path: Path,
    sigma: f64,
    /// Whether it ended by being ripe, not by the clock.
    until_ripe: bool,
    /// Whether it was given up: not ripe within a week.
    stuck: bool,
    /// From and to, minutes.
    span: (f64, f64),
    state: DoughState,
    around: Surroundings,
    need: Need,
    last: Row,
}

/// Low and high of the clock up to where the rises before this one ended.
#[derive(Clone, Copy)]
struct Shift {
    low: Option<f64>,
    high: Option<f64>,
}

/// A dough taken through its stages, and not a step further.
pub struct Simulation<'a> {
    run: Run<'a>,
    main: Population,
    risen: Vec<Risen>,
    curve: Vec<Row>,
    end: Row,
    living: Living,
    stage_starts: Vec<f64>,
    rises: Vec<(usize, f64)>,
    skipped_acts: Vec<(usize, usize)>,
}

impl Simulation<'_> {
    /// The dough as the last stage leaves it.
    #[must_use]
    pub const fn end(&self) -> &Row {
        &self.end
    }

    /// Minutes from mixing until the first rise is ripe. None where it is not within its stages.
    #[must_use]
    pub fn ripe_min(&self) -> Option<f64> {
        self.risen.iter().flat_map(|r| &r.found).find(|e| e.kind.is_ripe()).map(|e| e.min)
    }

    /// With what would come of each rise if it were left standing, and the range of every moment.
    #[must_use]
    pub fn foreseen(mut self) -> Forecast {
        for r in self.risen.iter_mut().filter(|r| !r.stuck) {
            self.run.look_ahead(r);
        }
        Forecast {
            main: self.main,
            events: ranged(self.risen, &self.run.k.numbers),
            end: self.end,
            curve: self.curve,
            living: self.living,
            stage_starts: self.stage_starts,
            skipped_acts: self.skipped_acts,
            rises: self.rises,
            body: self.run.body,
        }
    }
}

/// Simulates a dough through its stages, and what would come of each rise left standing.
///
/// Ranges: those of `docs/science.md`. A stage without minutes runs until ripe. Ranges of the events
/// are the 10th and 90th percentile.
///
/// # Errors
/// As [`course`].
pub fn simulate(rise: &Rise, k: &Constants) -> Result<Forecast, InputErrors> {
    course(rise, k).map(Simulation::foreseen)
}

/// The dough as it leaves the mix.
fn mixed(rise: &Rise, b: &Body, n: &Numbers) -> DoughState {
    let group = |which, lag, factor, growth, most, amount| Group::new(which, n, rise.start_c, lag, factor, growth, most, amount);
    let leaven = rise.dough.leaven.is_some();
    DoughState {
        min: 0.0,
        celsius: rise.start_c,
        bakers: (b.yeast_instant_pct > 0.0)
            .then(|| group(Population::Bakers, b.lag_bakers_h, b.factor_bakers, n.bakers_growth, n.bakers_y_max, b.yeast_instant_pct)),
        wild: leaven.then(|| group(Population::Wild, b.lag_wild_h, b.factor_wild, n.wild_growth, n.wild_y_max, b.wild_y)),
        lactic: leaven.then(|| group(Population::Lactic, b.lag_wild_h, b.factor_wild, n.lab_growth, 1.0, b.lactic_b)),
        acid: b.acid,
        made: 0.0,
        kept: 0.0,
        free: 0.0,
    }
}

/// What breaks into a stage, in order: acts that cost gas, and readings; each with its number and its minute.
fn breaks(stage: &RiseStage, k: &Constants) -> Vec<(usize, f64, Break)> {
    let loses = |act: &str| Break::Loses(k.acts.get(act).copied().unwrap_or(0.0));
    let acts = stage.acts.as_deref().unwrap_or_default().iter().enumerate().map(|(j, a)| (j, a.at_min, loses(&a.act)));
    let readings = stage.readings.iter().enumerate().map(|(j, r)| (j, r.0, Break::Measured(r.1)));
    let mut all: Vec<_> = acts.chain(readings).collect();
    all.sort_by(|x, y| x.1.total_cmp(&y.1));
    all
}

/// Takes a dough through its stages. A stage without minutes runs until ripe.
///
/// Budget: 24 h in three stages under 50 µs.
///
/// # Errors
/// Every field outside its range, in a baker's words.
#[allow(clippy::too_many_lines, reason = "stage after stage: what stands between them is the dough itself")]
pub fn course<'a>(rise: &Rise, k: &'a Constants) -> Result<Simulation<'a>, InputErrors> {
    rise.check(k)?;
    let n = &k.numbers;
    let body = Body::of(&rise.dough, rise.rate, k);
    let acid_max = body.buffer * ((n.ph0 - n.ph_floor) / (n.ph_stop - n.ph_floor)).ln();
    let run = Run { k, acid_max, per_bakers: n.gas_bakers / n.bakers_growth, per_wild: n.gas_wild / n.wild_growth, body };
    let b = &run.body;
    let mut s = mixed(rise, b, n);
    let main = if b.bakers_lead && s.bakers.is_some() { Population::Bakers } else { Population::Wild };
    let mut curve = Vec::with_capacity(rows_of(rise, n));
    let mut risen: Vec<Risen> = Vec::new();
    let (mut found, mut path) = (Vec::new(), Path::default());
    let mut need: Option<Need> = None;
    let (mut stage_starts, mut skipped_acts, mut rises) = (Vec::new(), Vec::new(), Vec::new());
    let mut rise_stage = 0;
    let mut rise_start = 0.0;
    let mut coldest = f64::INFINITY;
    for (i, stage) in rise.stages.iter().enumerate() {
        let around = Surroundings::of(stage, k);
        let turned = need.as_ref().is_none_or(|n: &Need| n.kind != stage.kind) || stage.new_rise.unwrap_or(false);
        if turned {
            let shaped =
                need.is_some_and(|n| n.kind == RiseKind::Bulk) && stage.kind == RiseKind::Proof && !stage.no_shape.unwrap_or(false);
            if shaped {
                run.lose(&mut s, k.styles.get(&rise.style).map_or(0.0, |r| r.shape_loss));
            }
            (found, path) = (Vec::new(), Path::default());
            path.start(s.min, run.theta(&s));
            rise_start = s.min;
            rise_stage = i;
            coldest = f64::INFINITY;
        }
        // A later stage of the same rise may aim elsewhere, but counts from the same start.
        let fresh = run.need(&s, stage, rise);
        let now = match need {
            Some(before) if !turned => {
                let target = fresh_target(&run, stage, rise);
                let gas = (target - kept_at_start(&run, &before)).max(n.need_floor * target);
                Need { gas, per_gas: 1.0 / gas, made0: before.made0, volume0: before.volume0, ..fresh }
            }
            _ => fresh,
        };
        need = Some(now);
        coldest = coldest.min(stage.place_c);
        stage_starts.push(s.min);
        curve.push(run.row(&s, &now, i));
        let (start, mut ripe_here) = (s.min, false);
        let acts = breaks(stage, k);
        let end = start + stage.minutes.unwrap_or(n.horizon_min);
        let mut acts = acts.into_iter().peekable();
        // Already ripe: the stage takes no time, and the rise counts as one of fixed length.
        let already = stage.minutes.is_none() && now.ripeness(&s) >= 1.0;
        let mut done = already;
        while !done {
            let next = acts.peek().map_or(end, |a| start + a.1);
            let mut before = curve.last().copied().unwrap_or_else(|| run.row(&s, &now, i));
            let from = s.min;
            let mut taken = 0.0;
            while next - s.min > 1e-9 {
                let h = n.step_min.min(next - from - taken * n.step_min);
                if h <= 1e-9 {
                    break;
                }
                let kept = stage.minutes.is_none().then_some(s);
                run.step(&mut s, &around, &now, h);
                taken += 1.0;
                let r = now.ripeness(&s);
                if stage.minutes.is_none() && r >= 1.0 {
                    let r0 = before.ripeness;
                    if let Some(before) = kept {
                        s = before;
                    }
                    run.step(&mut s, &around, &now, h * (1.0 - r0) / (r - r0));
                    done = true;
                    ripe_here = true;
                }
                let mut after = run.row(&s, &now, i);
                curve.push(after);
                path.push(after.min, after.dough_h);
                if done {
                    after.ripeness = 1.0;
                }
                run.crossed(&before, &after, &now, i, false, &mut found);
                before = after;
                if done {
                    break;
                }
            }
            if done {
                break;
            }
            match acts.next() {
                Some((_, _, change)) => {
                    match change {
                        Break::Loses(share) => run.lose(&mut s, share),
                        Break::Measured(celsius) => s.measured(celsius),
                    }
                    curve.push(run.row(&s, &now, i));
                }
                None => done = true,
            }
        }
        skipped_acts.extend(acts.filter(|a| matches!(a.2, Break::Loses(_))).map(|a| (i, a.0)));
        let stuck = stage.minutes.is_none() && !ripe_here && !already;
        let last_of_rise = rise.stages.get(i + 1).is_none_or(|next| next.kind != stage.kind || next.new_rise.unwrap_or(false));
        if stuck {
            found.push(Event {
                kind: EventKind::NotRipe,
                stage: i,
                min: s.min,
                min_low: None,
                min_high: None,
                dough_h: run.theta(&s),
                ahead: false,
            });
        }
        if last_of_rise || stuck {
            let sigma = spread(rise.log_sigma, stage.kind, main, coldest < n.cold_below_c, n);
            rises.extend((rise_stage..=i).map(|_| (rise_stage, sigma)));
            risen.push(Risen {
                stage: i,
                found: std::mem::take(&mut found),
                path: std::mem::take(&mut path),
                sigma,
                until_ripe: ripe_here,
                span: (rise_start, s.min),
                state: s,
                around,
                need: now,
                last: run.row(&s, &now, i),
                stuck,
            });
        }
        if stuck {
            break;
        }
    }
    let fallback = need.unwrap_or_else(|| run.need(&s, &RiseStage::until_ripe(RiseKind::Bulk, 24.0, 1000.0), rise));
    let end = curve.last().copied().unwrap_or_else(|| run.row(&s, &fallback, 0));
    let living = Living { lactic: s.lactic.map_or(0.0, |g| g.amount), acid: s.acid };
    Ok(Simulation { main, risen, end, curve, living, stage_starts, skipped_acts, rises, run })
}

/// The events of all rises in order, each with its range: the spread of its own rise on top of those before.
fn ranged(risen: Vec<Risen>, n: &Numbers) -> Vec<Event> {
    let mut shift = Shift { low: Some(0.0), high: Some(0.0) };
    let mut events = Vec::new();
    for mut r in risen {
        for e in r.found.iter_mut().filter(|e| e.kind != EventKind::NotRipe) {
            e.min_low = shift.low.zip(r.path.stretched(e.dough_h, (-n.z_interval * r.sigma).exp())).map(|(a, b)| a + b);
            e.min_high = shift.high.zip(r.path.stretched(e.dough_h, (n.z_interval * r.sigma).exp())).map(|(a, b)| a + b);
        }
        let ripe = r.found.iter().find(|e| e.kind.is_ripe() && !e.ahead).filter(|_| r.until_ripe);
        let by_clock = |from: Option<f64>| from.map(|m| m + r.span.1 - r.span.0);
        shift = match ripe {
            Some(e) => Shift { low: e.min_low, high: e.min_high },
            None => Shift { low: by_clock(shift.low), high: by_clock(shift.high) },
        };
        events.append(&mut r.found);
    }
    events
}

/// About how many rows the course takes; a rise until ripe is given a day's evening.
fn rows_of(rise: &Rise, n: &Numbers) -> usize {
    let of = |s: &RiseStage| {
        s.minutes.map_or(96, |m| (m / n.step_min).ceil().clamp(0.0, 4096.0) as usize) + 2 + s.acts.as_ref().map_or(0, Vec::len)
    };
    rise.stages.iter().map(of).sum()
}

fn fresh_target(run: &Run<'_>, stage: &RiseStage, rise: &Rise) -> f64 {
    let empty = DoughState { min: 0.0, celsius: 0.0, bakers: None, wild: None, lactic: None, acid: 0.0, made: 0.0, kept: 0.0, free: 0.0 };
    run.need(&empty, stage, rise).gas
}

fn kept_at_start(run: &Run<'_>, need: &Need) -> f64 {
    run.body.retained((need.volume0 - 1.0) * (run.body.vd_ml + run.body.air_ml))
}

/// Spread of ln(rate) over one rise.
fn spread(given: Option<f64>, kind: RiseKind, main: Population, cold: bool, n: &Numbers) -> f64 {
    let own = match (kind, main) {
        (RiseKind::Leaven, _) => n.sigma_leaven,
        (_, Population::Bakers) => n.sigma_bakers,
        (_, Population::Wild | Population::Lactic) => n.sigma_wild,
    };
    let sigma = given.unwrap_or(own);
    if cold && sigma > 0.0 { sigma.hypot(n.sigma_cold) } else { sigma }
}

/// Dough time of a population along a chain of places, stage by stage: temperature and hours at each end.
///
/// # Errors
/// Stages outside their ranges.
pub fn dough_hours_along(population: Population, start_c: f64, stages: &[RiseStage], k: &Constants) -> Vec<(f64, f64)> {
    let n = &k.numbers;
    let mut group = Group::new(population, n, start_c, 0.0, 1.0, 1.0, f64::INFINITY, 0.0);
    let mut celsius = start_c;
    stages
        .iter()
        .map(|stage| {
            let around = Surroundings::of(stage, k);
            let minutes = stage.minutes.unwrap_or(0.0);
            let mut at = 0.0;
            while minutes - at > 1e-9 {
                let h = n.step_min.min(minutes - at);
                let (half, full) = around.decay(h, n);
                let gap = celsius - around.place_c;
                group.step(h / 60.0, around.place_c + gap * half, around.place_c + gap * full);
                celsius = around.place_c + gap * full;
                at += h;
            }
            (celsius, group.theta)
        })
        .collect()
}
