//! The search on one day: the starts that can be, the ways laid in them, the truly different ones kept.

use smallvec::smallvec;

use super::{
    day::Day,
    hours::{AwayKind, Minute, Set, Span, Windows, backward, both, fit, forward, free, placed},
    placing::PlacedSchedule,
    schedule::{Schedule, ScheduleFamily, Work},
    solve::{Model, Search, Solved},
};

/// What a day leaves free, worked out once for all ways.
struct Free {
    windows: Windows,
    /// For each work the starts at which it can be done.
    fits: Vec<(Work, Set)>,
}

/// A solved way that has a place in the day: its sets, its starts as likely, the load that is wanted.
struct Candidate {
    solved: usize,
    sets: Vec<Set>,
    starts: Vec<Minute>,
    wanted: Minute,
}

/// Schedules of a family that are laid, and ways tried for it.
const LAID: usize = 14;
const TRIED: usize = 120;
/// Above this chance of spoiling a plan is offered only where nothing else stands.
const RISKY: f64 = 0.30;
/// Places differ where a work moves by so much, minutes.
const ANOTHER_TIME_MIN: Minute = 240;
/// Fewest plans to show, if there are so many.
const FEWEST: usize = 3;
/// A bake may be ready so much sooner than its whole minutes add up to.
pub(super) const SOONER_MIN: Minute = 6;
/// Longest act for which the baker may be woken, minutes.
const WOKEN_MIN: Minute = 10;

impl<M: Model> Search<'_, M> {
    fn free(&self, day: &Day) -> Free {
        let windows = day.windows();
        // Woken, the baker does one short thing; what is longer, and what must be watched, is not for the night.
        let night = day.woken.then(|| {
            let gone = day.away.iter().filter(|a| a.kind != AwayKind::Asleep).map(|a| a.span).chain(day.hands_taken.iter().map(|t| t.0));
            Windows { hands: free(day.whole(), gone), ..windows.clone() }
        });
        let mut fits: Vec<(Work, Set)> = Vec::new();
        for work in &self.kinds {
            let segs = self.rules.works.segs(*work);
            let short = segs.iter().all(|s| s.offset >= 0 && s.offset + s.length <= WOKEN_MIN);
            let mut set = fit(&segs, night.as_ref().filter(|_| short).unwrap_or(&windows));
            match (work, day.mix_within) {
                (Work::Mix, Some(within)) => set = both(&set, &[within]),
                (Work::Now, _) => set = smallvec![Span::new(day.from, day.from)],
                _ => {}
            }
            fits.push((*work, set));
        }
        Free { windows, fits }
    }

    /// The sets of starts of one solved way on this day; empty where it has no place in it.
    fn sets(&self, s: &Solved, free: &Free, day: &Day) -> Vec<Set> {
        // The oven of the day may be some minutes sooner than the whole minutes it is planned with.
        let early = if day.early > SOONER_MIN { day.early - SOONER_MIN } else { day.early };
        let last = day.ready.map_or(day.horizon, |ready| Span::new(ready - s.after_load - early, ready - s.after_load));
        // Too long for the hours there are: seen without a look at each of them.
        if day.from.saturating_add(s.shortest) > last.to {
            return Vec::new();
        }
        let mut sets = backward(&free.of(s), &s.lengths, &s.joints, &[last]);
        if let Some(first) = sets.first_mut() {
            *first = both(first, &[Span::new(day.from, Minute::MAX / 4)]);
            if first.is_empty() {
                return Vec::new();
            }
        }
        sets
    }

    fn candidate(&self, index: usize, s: &Solved, free: &Free, day: &Day) -> Option<Candidate> {
        let sets = self.sets(s, free, day);
        let first = sets.first()?.first()?.from;
        let wanted = day.ready.map_or(first + s.nominal(&s.joints), |ready| ready - s.after_load);
        let starts = placed(&sets, &s.lengths, &self.timed(s, wanted), wanted)?;
        Some(Candidate { solved: index, sets, starts, wanted })
    }

    fn lay_hope(&mut self, candidate: &Candidate, by: Minute, free: &Free, day: &Day) -> Option<PlacedSchedule> {
        let s = self.solved.get(candidate.solved)?.clone();
        self.lay(&s, &candidate.sets, candidate.wanted + by, day, &free.windows)
    }

    /// Plans for the day: the best of each family in order of cost, at most `most`, truly different.
    pub fn plans(&mut self, day: &Day, most: usize) -> Vec<PlacedSchedule> {
        let stand = self.standing(day);
        self.chosen(&stand, day, most)
    }

    /// The ways of each family that stand on the day, those not offered for their risk left out.
    pub(super) fn standing(&mut self, day: &Day) -> Vec<PlacedSchedule> {
        let free = self.free(day);
        let mut stand: Vec<PlacedSchedule> = Vec::new();
        for family in ScheduleFamily::ALL {
            stand.extend(self.stand_in(&free, day, family, LAID));
        }
        if stand.iter().any(|l| l.p_spoil <= RISKY) {
            stand.retain(|l| l.p_spoil <= RISKY);
        }
        stand
    }

    /// The plans to offer of those that stand: the best first, under the wish of the day.
    pub(super) fn chosen(&self, stand: &[PlacedSchedule], day: &Day, most: usize) -> Vec<PlacedSchedule> {
        let mut stand: Vec<&PlacedSchedule> = stand.iter().collect();
        stand.sort_by(|a, b| self.by_score(a, b, day, day.want));
        let family = |l: &PlacedSchedule| self.rules.schedules.get(l.schedule).map(|w| w.family);
        let mut chosen: Vec<PlacedSchedule> = Vec::new();
        for l in &stand {
            if !chosen.iter().any(|c| family(c) == family(l)) {
                chosen.push((*l).clone());
            }
        }
        for l in &stand {
            if chosen.len() < FEWEST && chosen.iter().all(|c| self.differ(c, l)) {
                chosen.push((*l).clone());
            }
        }
        chosen.truncate(most);
        for l in &mut chosen {
            self.slacken(l);
        }
        chosen
    }

    fn differ(&self, a: &PlacedSchedule, b: &PlacedSchedule) -> bool {
        let (Some(x), Some(y)) = (self.rules.schedules.get(a.schedule), self.rules.schedules.get(b.schedule)) else { return false };
        let moved = |work: fn(Work) -> bool| match (a.start_of(work), b.start_of(work)) {
            (Some(p), Some(q)) => (p - q).abs() >= ANOTHER_TIME_MIN,
            _ => false,
        };
        x.family != y.family
            || (x.places() != y.places()
                && (moved(|w| w == Work::Mix) || moved(|w| w == Work::Shape) || moved(|w| matches!(w, Work::Bake { .. }))))
    }

    /// Schedules of one family that stand on this day, in order of what they seem to cost, at most `most`.
    pub fn stand(&mut self, day: &Day, family: ScheduleFamily, most: usize) -> Vec<PlacedSchedule> {
        let free = self.free(day);
        self.stand_in(&free, day, family, most)
    }

    fn stand_in(&mut self, free: &Free, day: &Day, family: ScheduleFamily, most: usize) -> Vec<PlacedSchedule> {
        let of_family = |s: &Solved| self.rules.schedules.get(s.schedule).is_some_and(|w| w.family == family);
        let solved = self.solved.iter().enumerate().filter(|(_, s)| of_family(s));
        let mut candidates: Vec<(f64, Candidate)> =
            solved.filter_map(|(i, s)| self.candidate(i, s, free, day).map(|h| (self.cost_of(s, &h.starts, &[], day, 0), h))).collect();
        candidates.sort_by(|a, b| a.0.total_cmp(&b.0).then(a.1.solved.cmp(&b.1.solved)));
        let mut stand = Vec::new();
        for (_, candidate) in candidates.iter().take(TRIED) {
            stand.extend(self.lay_hope(candidate, 0, free, day));
            if stand.len() >= most {
                return stand;
            }
        }
        if stand.is_empty() {
            stand.extend(self.shifted(&candidates, free, day));
        }
        stand
    }

    /// What is likeliest may miss an aim by minutes where a little sooner or later does not: an hour given must
    /// never take a plan away.
    fn shifted(&mut self, candidates: &[(f64, Candidate)], free: &Free, day: &Day) -> Option<PlacedSchedule> {
        // Every ten minutes for five hours either way, then every half hour for fifteen.
        const NEAR: (usize, Minute) = (30, 10);
        const FAR: (usize, Minute) = (20, 30);
        const MOVED: usize = 40;
        let beyond = candidates.iter().skip(TRIED).map(|h| (&h.1, 0));
        let steps = std::iter::repeat_n(NEAR.1, NEAR.0).chain(std::iter::repeat_n(FAR.1, FAR.0));
        let shifts = steps.scan(0, |by, step| {
            *by += step;
            Some(*by)
        });
        let moved = shifts.flat_map(|by| [-by, by]).flat_map(|by| candidates.iter().take(MOVED).map(move |h| (&h.1, by)));
        beyond.chain(moved).find_map(|(candidate, by)| self.lay_hope(candidate, by, free, day))
    }

    /// The same plan with another dose: its way solved and laid again, at the clock it has.
    pub fn with_dose(&mut self, laid: &PlacedSchedule, dose: f64, day: &Day) -> Option<PlacedSchedule> {
        let schedule = Schedule { dose, ..self.rules.schedules.get(laid.schedule)?.clone() };
        let mut laid = self.with_way(schedule, laid.load(), day)?;
        self.slacken(&mut laid);
        Some(laid)
    }

    /// One more way, laid to be loaded as near as can be to a minute; it is kept only where it stands.
    pub fn with_way(&mut self, schedule: Schedule, load: Minute, day: &Day) -> Option<PlacedSchedule> {
        let index = self.rules.schedules.len();
        self.rules.schedules.push(schedule);
        let free = self.free(day);
        let found = (0..self.rules.bands.len().max(1)).find_map(|band| {
            let solved = self.solve(index, band)?;
            self.lay_toward(&solved, load, &free, day)
        });
        if found.is_none() {
            self.rules.schedules.pop();
        }
        found
    }

    /// Every way that stands, its waits drawn toward the wanted load within their aims.
    pub fn toward(&mut self, load: Minute, day: &Day) -> Vec<PlacedSchedule> {
        let free = self.free(day);
        let all = self.solved.clone();
        all.iter().filter_map(|s| self.lay_toward(s, load, &free, day)).collect()
    }

    fn lay_toward(&mut self, s: &Solved, load: Minute, free: &Free, day: &Day) -> Option<PlacedSchedule> {
        const NEAR_MIN: Minute = 5;
        let sets = self.sets(s, free, day);
        let off = |l: &PlacedSchedule| (l.load() - load).abs();
        let likely = self.lay(s, &sets, load, day, &free.windows);
        // A plan from the mix on takes its start from the load; what has begun can only wait more or less.
        if self.rules.begun.is_none() || likely.as_ref().is_some_and(|l| off(l) < NEAR_MIN) {
            return likely;
        }
        let by = load - likely.as_ref().map_or_else(|| s.nominal(&s.joints), PlacedSchedule::load);
        let room: Minute = s.joints.iter().map(|j| if by < 0 { j.nominal - j.lo } else { j.hi - j.nominal }).sum();
        // No farther than half the way to where it may just be used: an hour kept is not worth a poor loaf.
        let lean = if room > 0 { (f64::from(by) / f64::from(room)).clamp(-0.5, 0.5) } else { 0.0 };
        let leaning = self.lay(&Solved { lean, ..s.clone() }, &sets, load, day, &free.windows);
        likely.into_iter().chain(leaning).min_by_key(|l| off(l))
    }

    /// Whether any way stands on this day: those nearest to what is likeliest first, at most `tries`.
    pub fn any(&mut self, day: &Day, tries: usize) -> Option<PlacedSchedule> {
        let all: Vec<usize> = (0..self.solved.len()).collect();
        self.any_among(&all, day, tries)
    }

    /// The solved ways that have a place on this day by the sets alone. With less time there are fewer.
    pub fn hopeful(&self, day: &Day) -> Vec<usize> {
        let free = self.free(day);
        let stands = |s: &Solved| !self.sets(s, &free, day).is_empty();
        self.solved.iter().enumerate().filter(|(_, s)| stands(s)).map(|(i, _)| i).collect()
    }

    /// The same as [`Self::any`] among some of the solved ways.
    pub fn any_among(&mut self, among: &[usize], day: &Day, tries: usize) -> Option<PlacedSchedule> {
        let free = self.free(day);
        let mut candidates: Vec<(Minute, Candidate)> = among
            .iter()
            .filter_map(|i| self.solved.get(*i).map(|s| (*i, s)))
            .filter_map(|(i, s)| self.candidate(i, s, &free, day).map(|h| (s.off_nominal(&h.starts), h)))
            .collect();
        candidates.sort_by_key(|(off, h)| (*off, h.solved));
        let mut laid = candidates.iter().take(tries).find_map(|(_, candidate)| self.lay_hope(candidate, 0, &free, day))?;
        self.slacken(&mut laid);
        Some(laid)
    }

    /// The least minute from `from` on at which any way could be ready, by the sets alone.
    pub fn least_ready(&self, day: &Day, from: Minute) -> Option<Minute> {
        let free = self.free(day);
        let least = |s: &Solved| {
            let loads = forward(&free.of(s), &s.lengths, &s.joints, day.from);
            both(&loads, &[Span::new(from - s.after_load, Minute::MAX / 4)]).first().map(|f| f.from + s.after_load)
        };
        self.solved.iter().filter_map(least).min()
    }

    /// The latest minute at which any way could begin, by the sets alone, with the past open.
    pub fn latest_start(&self, day: &Day) -> Option<Minute> {
        let free = self.free(day);
        self.solved.iter().filter_map(|s| self.sets(s, &free, day).first().and_then(|f| f.last()).map(|x| x.to)).max()
    }
}

impl Free {
    /// The starts at which each work of a way can be done.
    fn of(&self, s: &Solved) -> Vec<&[Span]> {
        s.works.iter().map(|w| self.fits.iter().find(|(x, _)| x == w).map_or(&[][..], |(_, set)| set.as_slice())).collect()
    }
}
