//! The baker's hours: windows in which hands, eyes and oven are free, as exact sets of minutes.

use serde::{Deserialize, Serialize};
use smallvec::{SmallVec, smallvec};

/// A whole minute of elapsed time, counted from the start of what was asked.
pub type Minute = i32;

/// From and to, both inclusive for a start, `from < to` for a window.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
pub struct Span {
    /// From.
    pub from: Minute,
    /// To.
    pub to: Minute,
}

impl Span {
    /// A span.
    #[must_use]
    pub const fn new(from: Minute, to: Minute) -> Self {
        Self { from, to }
    }
    /// The first minute that both hold; nothing where they only touch.
    #[must_use]
    pub fn meets(self, other: Self) -> Option<Minute> {
        (self.from < other.to && other.from < self.to).then(|| self.from.max(other.from))
    }
    const fn shifted(self, by: Minute) -> Self {
        Self { from: self.from.saturating_add(by), to: self.to.saturating_add(by) }
    }
}

words! {
    /// Why the baker cannot work.
    #[derive(Default)]
    AwayKind {
        /// Out of the house.
        #[default]
        Away "away",
        /// Asleep.
        Asleep "asleep",
        /// At home with full hands: the oven may be hot, the dough may not be touched.
        Busy "busy",
    }
}

impl AwayKind {
    /// As it is told the baker.
    #[must_use]
    pub const fn you_are(self) -> &'static str {
        match self {
            Self::Away => "you are out",
            Self::Asleep => "you are asleep",
            Self::Busy => "your hands are full",
        }
    }
}

/// Hours that are not the dough's.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Away {
    /// From, to.
    pub span: Span,
    /// Why.
    pub kind: AwayKind,
}

/// What a piece of work takes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Need {
    /// One baker's hands.
    Hands,
    /// Hands for two minutes: a loaf is taken out or turned, while another piece rests on the bench if need be.
    Brief,
    /// A piece rests on the bench between two works of the hands: nothing longer than [`Need::Brief`] is begun meanwhile.
    Rest,
    /// Awake and at home.
    Watch,
    /// The oven.
    Oven,
}

impl Need {
    /// Whether it cannot be had while another dough takes this.
    #[must_use]
    pub const fn is_kept_by(self, taken: Self) -> bool {
        match self {
            Self::Hands => matches!(taken, Self::Hands | Self::Brief | Self::Rest),
            Self::Brief => matches!(taken, Self::Hands | Self::Brief),
            Self::Rest => matches!(taken, Self::Hands | Self::Rest),
            Self::Watch | Self::Oven => false,
        }
    }
    /// Whether hands are at it.
    #[must_use]
    pub const fn is_hands(self) -> bool {
        matches!(self, Self::Hands | Self::Brief)
    }
}

/// What another dough takes of the hands, and when.
pub type HandsTaken = (Span, Need);

/// Disjoint spans in order: a day leaves a handful, so they seldom need memory of their own.
pub type Set = SmallVec<[Span; 4]>;

/// Puts spans in order and joins those that overlap or touch.
#[must_use]
pub fn joined(mut spans: Set) -> Set {
    spans.retain(|s| s.from <= s.to);
    spans.sort_unstable();
    let mut set = Set::with_capacity(spans.len());
    for s in spans {
        match set.last_mut() {
            Some(last) if s.from <= last.to.saturating_add(1) => last.to = last.to.max(s.to),
            _ => set.push(s),
        }
    }
    set
}

/// What both sets hold.
#[must_use]
pub fn both(a: &[Span], b: &[Span]) -> Set {
    let (mut i, mut j) = (0, 0);
    let mut set = Set::new();
    while let (Some(x), Some(y)) = (a.get(i), b.get(j)) {
        let (from, to) = (x.from.max(y.from), x.to.min(y.to));
        if from <= to {
            set.push(Span { from, to });
        }
        if x.to < y.to { i += 1 } else { j += 1 }
    }
    set
}

/// The windows left of a horizon when some hours are taken. Windows that only touch stay apart: work
/// cannot begin in one and end in the other.
#[must_use]
pub fn free(horizon: Span, taken: impl IntoIterator<Item = Span>) -> Set {
    let mut busy: Vec<Span> = taken.into_iter().filter(|s| s.from < s.to).collect();
    busy.sort_unstable();
    let mut windows = Set::new();
    let mut from = horizon.from;
    for b in busy {
        if b.from >= horizon.to {
            break;
        }
        if b.from > from {
            windows.push(Span { from, to: b.from });
        }
        from = from.max(b.to);
    }
    if from < horizon.to {
        windows.push(Span { from, to: horizon.to });
    }
    windows
}

/// The starts from which every part of some work lies inside one window of what it needs.
#[must_use]
pub fn fit(segs: &[Seg], windows: &Windows) -> Set {
    let mut set: Set = smallvec![Span { from: Minute::MIN / 4, to: Minute::MAX / 4 }];
    for seg in segs {
        let starts: Set = windows
            .of(seg.need)
            .iter()
            .map(|w| Span { from: w.from - seg.offset, to: w.to - seg.offset - seg.length })
            .filter(|s| s.from <= s.to)
            .collect();
        set = both(&set, &joined(starts));
    }
    set
}

/// A part of a piece of work.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Seg {
    /// Minutes from the work's own moment; before it where negative.
    pub offset: Minute,
    /// How long.
    pub length: Minute,
    /// What it takes.
    pub need: Need,
}

/// When hands, eyes and oven are free.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Windows {
    /// One baker's hands.
    pub hands: Set,
    /// Hands for two minutes.
    pub brief: Set,
    /// A bench on which a piece may rest.
    pub rest: Set,
    /// Awake and at home.
    pub watch: Set,
    /// The oven, its recovery between bakes taken off.
    pub oven: Set,
}

/// Minutes the oven takes between two bakes at different settings. Common practice, no source.
pub const RECOVERY_MIN: Minute = 15;

impl Windows {
    /// Takes what is not free off a horizon.
    #[must_use]
    pub fn of_hours(horizon: Span, away: &[Away], hands_taken: &[HandsTaken], oven_taken: &[Span]) -> Self {
        let of = |kinds: &[AwayKind]| away.iter().filter(|a| kinds.contains(&a.kind)).map(|a| a.span).collect::<Vec<_>>();
        let gone = of(&[AwayKind::Away, AwayKind::Asleep]);
        let busy = of(&[AwayKind::Busy]);
        let free_for = |need: Need| {
            let taken = hands_taken.iter().filter(|t| need.is_kept_by(t.1)).map(|t| t.0);
            free(horizon, gone.iter().chain(&busy).copied().chain(taken))
        };
        Self {
            hands: free_for(Need::Hands),
            brief: free_for(Need::Brief),
            rest: free_for(Need::Rest),
            watch: free(horizon, gone),
            oven: free(horizon, oven_taken.iter().map(|s| Span { from: s.from - RECOVERY_MIN, to: s.to + RECOVERY_MIN })),
        }
    }
    fn of(&self, need: Need) -> &[Span] {
        match need {
            Need::Hands => &self.hands,
            Need::Brief => &self.brief,
            Need::Rest => &self.rest,
            Need::Watch => &self.watch,
            Need::Oven => &self.oven,
        }
    }
}

/// Minutes from the end of one piece of work to the start of the next: first, likeliest, last.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct WaitRange {
    /// First.
    pub lo: Minute,
    /// Likeliest.
    pub nominal: Minute,
    /// Last.
    pub hi: Minute,
}

impl WaitRange {
    /// A wait that cannot be moved.
    #[must_use]
    pub const fn fixed(minutes: Minute) -> Self {
        Self { lo: minutes, nominal: minutes, hi: minutes }
    }
}

/// For each piece of work of a chain the starts from which everything after it can still be done.
/// Empty where there are none. `lengths` are the minutes from each start to where its joint begins.
#[must_use]
pub fn backward(fits: &[&[Span]], lengths: &[Minute], joints: &[WaitRange], last: &[Span]) -> Vec<Set> {
    let n = fits.len();
    let mut sets: Vec<Set> = vec![Set::new(); n];
    let Some(end) = fits.last() else { return Vec::new() };
    let mut next = both(end, last);
    for k in (0..n).rev() {
        if k + 1 < n {
            let (Some(joint), Some(length), Some(fit)) = (joints.get(k), lengths.get(k), fits.get(k)) else { return Vec::new() };
            let reach = next.iter().map(|s| Span { from: s.from - length - joint.hi, to: s.to - length - joint.lo }).collect();
            next = both(fit, &joined(reach));
        }
        if next.is_empty() {
            return Vec::new();
        }
        if let Some(slot) = sets.get_mut(k) {
            slot.clone_from(&next);
        }
    }
    sets
}

/// For the last piece of work the starts that can be reached from the first one, whatever comes after.
#[must_use]
pub fn forward(fits: &[&[Span]], lengths: &[Minute], joints: &[WaitRange], from: Minute) -> Set {
    let Some(first) = fits.first() else { return Set::new() };
    let mut set = both(first, &[Span { from, to: Minute::MAX / 4 }]);
    for ((joint, length), fit) in joints.iter().zip(lengths).zip(fits.iter().skip(1)) {
        let reach = set.iter().map(|s| Span { from: s.from + length + joint.lo, to: s.to + length + joint.hi }).collect();
        set = both(fit, &joined(reach));
    }
    set
}

/// The point of a set nearest to another; ties go to the later one.
#[must_use]
pub fn nearest(set: &[Span], to: Minute) -> Option<Minute> {
    set.iter().map(|s| to.clamp(s.from, s.to)).min_by_key(|m| ((m - to).abs(), -m))
}

/// The starts of a chain: each nearest to what is likeliest, within what the sets allow.
#[must_use]
pub fn placed(sets: &[Set], lengths: &[Minute], joints: &[WaitRange], wanted_last: Minute) -> Option<Vec<Minute>> {
    let whole: Minute = joints.iter().zip(lengths).map(|(j, l)| j.nominal + l).sum();
    let mut at = nearest(sets.first()?, wanted_last - whole)?;
    let mut starts = vec![at];
    for ((joint, length), set) in joints.iter().zip(lengths).zip(sets.iter().skip(1)) {
        let reach = Span { from: joint.lo, to: joint.hi }.shifted(at + length);
        at = nearest(&both(set, &[reach]), at + length + joint.nominal)?;
        starts.push(at);
    }
    Some(starts)
}
