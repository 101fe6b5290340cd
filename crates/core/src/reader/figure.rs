//! What a number in a recipe is: a time, a setting, a size, so many pieces, or an amount of something.

use super::token::Token;
use super::{
    amount::{Amount, Sum},
    event::{PiecesTold, Told, What},
    lexicon::Role,
    scan::{Named, Scan},
    stated::Stated,
};
use crate::{
    measure::{Band, celsius_of},
    oven::{DegreeScale, Shape, read_setting},
    pantry::{Family, MeasureKind},
};

/// What a bare number may be that an oven is set to, °C and °F.
const DIALS: std::ops::RangeInclusive<f64> = 140.0..=550.0;
/// Cooler than any oven bakes, °C and °F.
const COOLEST_C: f64 = 100.0;
const COOLEST_F: f64 = 140.0;
/// Warmest a crumb is told to be, °C.
const CORE_C: std::ops::RangeInclusive<f64> = 60.0..=105.0;
/// More than a home baker divides into: behind "scale at" it is a weight.
const MOST_PIECES: u32 = 40;
/// Words between "divide" and its number.
const DIVIDE_REACH: usize = 6;

/// A figure and the token behind it.
pub(super) type Figure<'a> = (What<'a>, usize);

impl<'a> Scan<'a> {
    /// What stands at a token that may begin with a number. `None`: nothing that counts.
    pub fn figure(&self, at: usize, limit: usize) -> Option<Figure<'a>> {
        if let Some(found) = self.gas(at, limit) {
            return Some(found);
        }
        if let Some((band, end)) = self.pick(at, |r| if let Role::LongTime(b) = r { Some(b) } else { None }) {
            return Some((What::Minutes(band), end));
        }
        let (_, from) = self.approx(at, limit);
        let number = self.range(from).filter(|(_, end)| *end <= limit);
        if let Some((value, end)) = number {
            if let Some(end) = self.size_of_tin(from, limit) {
                return Some((What::Passed, end));
            }
            if let Some((minutes, end)) = self.minutes(value, end) {
                return Some((What::Minutes(minutes), end));
            }
            if let Some(found) = self.temperature(from, value, end, limit) {
                return Some(found);
            }
            if self.mark(end, '%') && self.name_at(from, limit, true).is_none_or(|n| n.end <= end + 1) {
                return self.percent(value.likely, end + 1, limit);
            }
        }
        let (sum, end) = self.sum(at, limit)?;
        let (_, first) = sum.first()?;
        if let Some(found) = self.pieces(from, first, end, limit) {
            return Some(found);
        }
        if self.role(end, Role::Each).is_some() && self.tok(self.role(end, Role::Each)?).is_some_and(Token::is_word) {
            // `half a teaspoon each of cinnamon and nutmeg` is taken apart by the caller
            return None;
        }
        self.amount_of(at, sum, end, limit)
    }

    /// `gas mark 6`, `gas 6`, `th. 6`.
    fn gas(&self, at: usize, limit: usize) -> Option<Figure<'a>> {
        let (scale, end) = self.pick(at, |r| matches!(r, Role::Gas | Role::Thermostat).then_some(r)).filter(|(_, end)| *end < limit)?;
        let end = end + usize::from(self.mark(end, '.'));
        let (value, behind) = self.range(end)?;
        if scale == Role::Thermostat {
            // A French thermostat's mark stands for thirty degrees.
            let c = value.likely * 30.0;
            return (1.0..=10.0).contains(&value.likely).then(|| (self.stated(c, DegreeScale::Celsius, false), behind));
        }
        (1.0..=10.0).contains(&value.likely).then(|| (self.stated(value.likely, DegreeScale::Gas, false), behind))
    }

    #[allow(clippy::unused_self, reason = "reads as the others do")]
    fn stated(&self, value: f64, scale: DegreeScale, fan: bool) -> What<'a> {
        What::Setting(Stated { value, scale, read: read_setting(value, scale), fan })
    }

    /// A bare number as the gas mark it must be.
    #[allow(clippy::unused_self, reason = "reads as the others do")]
    pub fn gas_mark(&self, value: f64) -> Option<Stated> {
        let read = read_setting(value, DegreeScale::Gas);
        read.set_c.is_some().then_some(Stated { value, scale: DegreeScale::Gas, read, fan: false })
    }

    /// A bare number as the setting it must be.
    pub fn bare_setting(&self, value: f64, at: usize, end: usize) -> Option<Stated> {
        let dial = DIALS.contains(&value) && value % 5.0 == 0.0;
        dial.then(|| Stated {
            value,
            scale: DegreeScale::Unsaid,
            read: read_setting(value, DegreeScale::Unsaid),
            fan: self.is_fan(at, end),
        })
    }

    /// Whether a setting is said for a fan: the word behind it, or before it behind a stroke or bracket.
    fn is_fan(&self, at: usize, end: usize) -> bool {
        let fan = |i: usize| self.role(i, Role::Fan).is_some();
        let before =
            at.checked_sub(1).is_some_and(|b| fan(b) && b.checked_sub(1).is_none_or(|p| ['/', '(', ','].iter().any(|m| self.mark(p, *m))));
        before || fan(end)
    }

    /// The token behind `9 x 13 inch`, `8x4`, `20 cm`, `10"`.
    fn size_of_tin(&self, at: usize, limit: usize) -> Option<usize> {
        let (first, mut end) = self.number(at)?;
        let (mut sides, mut largest) = (1, first);
        let mut measured = false;
        loop {
            let dash = end + usize::from(self.mark(end, '-'));
            if let Some(behind) = self.role(dash, Role::Length).or_else(|| self.mark(dash, '"').then_some(dash + 1)) {
                measured = true;
                end = behind;
            }
            let by = self.word(end, "x") || self.word(end, "by");
            let Some((next, behind)) = self.number(end + 1).filter(|_| by && end < limit) else { break };
            // `2 x 7 g`, `9 x 115 g`: so many of a weight.
            if self.unit(behind + usize::from(self.mark(behind, '-')), next).is_some() || self.minutes(Band::exact(next), behind).is_some()
            {
                break;
            }
            sides += 1;
            largest = f64::max(largest, next);
            end = behind;
        }
        (measured || (sides >= 2 && largest <= 60.0 && first > 2.0)).then_some(end)
    }

    /// A time behind a number, in minutes.
    pub fn minutes(&self, value: Band, at: usize) -> Option<(Band, usize)> {
        // `a quarter of an hour`, `half an hour`
        let mut at = at;
        if value.likely < 1.0 {
            at = self.role(at, Role::Of).unwrap_or(at);
            at = self.role(at, Role::Article).unwrap_or(at);
        }
        at += usize::from(self.mark(at, '-') && self.tok(at).is_some_and(|t| !t.spaced));
        let (per, end) = self.pick(at, |r| if let Role::Minutes(m) = r { Some(m) } else { None })?;
        // `1 h` is an hour; `2 m` no metre but minutes, and never a cup of something named behind it
        let mut total = value.times(per);
        let mut next = end + usize::from(self.mark(end, '.') && !self.ends_sentence(end));
        if per == 60.0 && value.is_exact() {
            // `an hour and a half`
            let (more, behind) = self.and_part(value.likely, next);
            if behind > next {
                return Some((Band::exact(more * 60.0), behind));
            }
            // `1h30`, `1 h 30 min`, `1 hour and 15 minutes`
            let joined = self.role(next, Role::And).unwrap_or(next);
            if let Some((extra, behind)) = self.range(joined).filter(|(e, _)| e.likely < 60.0) {
                let unit = self.pick(behind, |r| if let Role::Minutes(m) = r { Some(m) } else { None });
                let glued = self.tok(next).is_some_and(|t| !t.spaced) && joined == next;
                match unit {
                    Some((1.0, last)) => {
                        total = total.plus(extra);
                        next = last;
                    }
                    None if glued || (extra.likely >= 5.0 && extra.likely % 5.0 == 0.0 && self.clause_ends(behind)) => {
                        total = total.plus(extra);
                        next = behind;
                    }
                    _ => {}
                }
            }
        }
        Some((total, next))
    }

    /// Whether a clause ends before this token.
    pub fn clause_ends(&self, at: usize) -> bool {
        self.tok(at).is_none_or(|t| matches!(t.kind, super::token::Kind::Mark(',' | '.' | ';' | '!' | ')' | '(' | '\n')))
    }

    /// A temperature: of the oven, the crumb, the water, the place.
    fn temperature(&self, at: usize, value: Band, end: usize, limit: usize) -> Option<Figure<'a>> {
        let mut next = end;
        let mut degree = false;
        if self.mark(next, '°') {
            degree = true;
            next += 1;
        }
        if let Some(behind) = self.role(next, Role::Degree) {
            degree = true;
            next = behind + usize::from(self.mark(behind, '.'));
        }
        let letter = self.pick(next, |r| matches!(r, Role::Celsius | Role::Fahrenheit).then_some(r));
        // `2 C flour` are cups; `4 of 90 g` no Fahrenheit.
        let letter = letter.filter(|(_, behind)| {
            let text = self.tok(next).map_or("", |t| t.text);
            let is_cup = !degree
                && text.eq_ignore_ascii_case("c")
                && self.unit(next, value.likely).is_some()
                && self.name_behind(*behind, limit).is_some();
            let split = text.eq_ignore_ascii_case("of") && (self.tok(next).is_some_and(|t| t.spaced) || text == "of");
            let small_f = text.eq_ignore_ascii_case("f") && value.likely < 60.0;
            !is_cup && !split && !small_f
        });
        let scale = match letter {
            Some((Role::Celsius, behind)) => {
                next = behind;
                DegreeScale::Celsius
            }
            Some((_, behind)) => {
                next = behind;
                DegreeScale::Fahrenheit
            }
            None => DegreeScale::Unsaid,
        };
        if !degree && scale == DegreeScale::Unsaid {
            return None;
        }
        let v = value.likely;
        let in_c = |v: f64| {
            if scale == DegreeScale::Fahrenheit || (scale == DegreeScale::Unsaid && v > 110.0 && v < 215.0) { celsius_of(v) } else { v }
        };
        if self.is_core(at, next) && CORE_C.contains(&in_c(v)) {
            return Some((What::Core(in_c(v)), next));
        }
        let cool = match scale {
            DegreeScale::Fahrenheit => v < COOLEST_F,
            _ => v < COOLEST_C,
        };
        // A single figure with a degree sign is a gas mark read on the wrong scale; `8 C` in a fridge is a place.
        let gas = (1.0..=9.0).contains(&v) && v.fract() == 0.0 && scale == DegreeScale::Celsius && self.bakes_before(at);
        if cool && !gas {
            return Some((What::Warmth(in_c(v)), next));
        }
        if self.near_liquid(at) {
            return Some((What::Warmth(in_c(v)), next));
        }
        Some((self.stated(v, scale, self.is_fan(at, next)), next))
    }

    fn bakes_before(&self, at: usize) -> bool {
        self.back(at, 4).any(|i| {
            self.pick(i, |r| matches!(r, Role::Verb(super::lexicon::Act::Bake | super::lexicon::Act::Heat) | Role::Oven).then_some(()))
                .is_some()
        })
    }

    /// `heat the milk to 120 °F`, `water at 40 °C`
    fn near_liquid(&self, at: usize) -> bool {
        let mut seen = self.back(at, 4).take_while(|i| !self.mark(*i, '.') && !self.mark(*i, ','));
        seen.any(|i| self.name_at(i, self.tokens.len(), false).is_some_and(|n| n.ingredient.family == Family::Liquid))
    }

    /// Whether it is told inside the bread: `195 inside`, `core of 96 °C`.
    fn is_core(&self, at: usize, end: usize) -> bool {
        let core = |i: usize| {
            self.role(i, Role::Core).is_some() || self.word(i, "reads") || self.word(i, "reaches") || self.word(i, "thermometer")
        };
        (0..=3).any(|d| core(end + d) && (0..d).all(|k| !self.mark(end + k, ','))) || self.back(at, 4).any(core)
    }

    /// A bare number said to be inside: `195 inside`.
    pub fn bare_core(&self, value: f64, at: usize, end: usize) -> Option<f64> {
        let c = if value > 120.0 { celsius_of(value) } else { value };
        (self.is_core(at, end) && CORE_C.contains(&c)).then_some(c)
    }

    /// `70% water`, `2 % salt`
    fn percent(&self, value: f64, end: usize, limit: usize) -> Option<Figure<'a>> {
        if let Some(behind) = self.role(end, Role::Hydration) {
            return Some((What::Passed, behind));
        }
        let name = self.name_behind(self.role(end, Role::Of).unwrap_or(end), limit)?;
        let tail = name.end;
        let told = Told { percent: Some(value), ..Told::new(Vec::new(), name, end, tail) };
        Some((What::Line(Box::new(told)), tail))
    }

    /// So many pieces, and what one weighs.
    fn pieces(&self, at: usize, a: &Amount<'a>, end: usize, limit: usize) -> Option<Figure<'a>> {
        let grams_of = |a: &Amount<'_>| a.mass().map(|m| m.likely);
        // `80 g rolls`, `450 g loaves`, `115 g each`
        let named = |at: usize| self.name_at(at, limit, true).is_some();
        if let Some(grams) = grams_of(a).filter(|_| a.times.is_none() && !named(end)) {
            let dash = end + usize::from(self.mark(end, '-'));
            if let Some((shape, behind)) = self.piece_word(dash, limit) {
                return Some((What::Pieces(PiecesTold { piece_g: Some(grams), shape, ..PiecesTold::default() }), behind));
            }
            if let Some(behind) =
                self.role(end, Role::Each).filter(|b| !self.tok(*b).is_some_and(Token::is_word) || self.role(*b, Role::And).is_some())
            {
                return Some((What::Pieces(PiecesTold { piece_g: Some(grams), ..PiecesTold::default() }), behind));
            }
        }
        // `75 g x 10`
        if let Some(grams) = grams_of(a).filter(|_| a.times.is_none() && self.word(end, "x"))
            && let Some((n, behind)) = self.number(end + 1).filter(|(_, e)| *e >= limit || self.clause_ends(*e))
            && let Some(n) = count(n)
        {
            return Some((What::Pieces(PiecesTold { count: Some(n), piece_g: Some(grams), ..PiecesTold::default() }), behind));
        }
        // `two 1-lb tins`, `two small tins`: something to bake in, unless a thing comes in them.
        let tins = end.checked_sub(1).is_some_and(|i| self.word(i, "tins") || self.word(i, "tin"));
        if tins && self.name_behind(self.role(end, Role::Of).unwrap_or(end), limit).is_none_or(|n| n.at > end + 2) {
            let many =
                a.times.or_else(|| a.unit.filter(|u| u.id == "can").map(|_| a.value.likely)).or(a.container.then_some(a.value.likely));
            if let Some(n) = many.and_then(count) {
                return Some((What::Pieces(PiecesTold { count: (n > 1).then_some(n), ..PiecesTold::default() }), end));
            }
        }
        // `9 x 115 g`, `2 x 800g tins`
        if let (Some(times), Some(grams)) = (a.times.filter(|_| !a.container).and_then(count), grams_of(a)) {
            let each = grams / f64::from(times);
            if self.holder_within(end, limit).is_some() {
                return Some((What::Pieces(PiecesTold { count: Some(times), ..PiecesTold::default() }), end));
            }
            let packed = self.is_container(end);
            let named = self.name_behind(end, limit).filter(|n| n.at <= end + 3).is_some();
            if !packed && !named {
                let (shape, behind) = self.piece_word(end, limit).unwrap_or((None, end));
                return Some((What::Pieces(PiecesTold { count: Some(times), piece_g: Some(each), shape, strands: None }), behind));
            }
            return None;
        }
        // `12 stk` are pieces where no butter is named behind the sticks.
        let stk = a.unit.is_some_and(|u| u.id == "stick") && a.unit_word == "stk" && self.name_behind(end, limit).is_none();
        if let Some(n) = count(a.value.likely).filter(|_| stk) {
            return Some((What::Pieces(PiecesTold { count: Some(n), ..PiecesTold::default() }), end));
        }
        let bare = a.unit.is_none() && !a.container && a.value.is_exact();
        let n = count(a.value.likely).filter(|_| bare)?;
        if let Some(end) = self.role(end, Role::Strand) {
            return Some((What::Pieces(PiecesTold { strands: Some(n), ..PiecesTold::default() }), end));
        }
        // `12 balls`, `18 rings at about 60 g`, `10 knots (about 85 g each)`
        if let Some((shape, behind)) = self.piece_word(end, limit).filter(|_| !a.article || self.yields_before(at)) {
            if self.name_at(end, limit, false).is_some_and(|name| name.end >= behind && name.ingredient.family != Family::Topping) {
                return None;
            }
            let (piece_g, behind) = self.weight_each(behind, limit).map_or((None, behind), |(g, e)| (Some(g), e));
            let reheard = self.role(behind, Role::Strand).is_some();
            return (!reheard).then_some((What::Pieces(PiecesTold { count: Some(n), piece_g, shape, strands: None }), behind));
        }
        if a.article {
            return None;
        }
        // `6 of 90 g`, `12 @ 95 g`, `16 at 3 oz`
        let joint = self
            .mark(end, '@')
            .then_some(end + 1)
            .or_else(|| self.pick(end, |r| matches!(r, Role::Of | Role::At | Role::Each).then_some(())).map(|(_, e)| e));
        if let Some((each, behind)) = joint.and_then(|j| self.amount(j, limit)).filter(|(a, _)| a.mass().is_some()) {
            let named = self.name_behind(behind, limit).filter(|found| found.at <= behind + 2).is_some();
            if !named && self.holder_within(behind, limit).is_none() {
                return Some((What::Pieces(PiecesTold { count: Some(n), piece_g: grams_of(&each), ..PiecesTold::default() }), behind));
            }
        }
        // `two 1-lb tins`, `two small tins`, `i to former`
        if n >= 2 || self.word(end, "x") {
            let sized = self.amount(end, limit).filter(|(a, _)| a.is_measured()).map_or(end, |(_, e)| e);
            let sized = if self.word(end, "x") { self.amount(end + 1, limit).map_or(end, |(_, e)| e) } else { sized };
            if self
                .holder_within(sized, limit)
                .is_some_and(|h| matches!(h, super::lexicon::Holder::Tin | super::lexicon::Holder::Pot | super::lexicon::Holder::Basket))
            {
                return Some((What::Pieces(PiecesTold { count: Some(n), ..PiecesTold::default() }), sized));
            }
        }
        // `makes 12`, `divide in 6`, `cut into 9`
        let free = self.clause_ends(end)
            || self.tok(end).is_none_or(|_| end >= limit)
            || self
                .pick(end, |r| matches!(r, Role::And | Role::Then | Role::Stop | Role::Or | Role::No | Role::Function).then_some(()))
                .is_some();
        let divided = self.divides_before(at);
        // `scale at 350`: what a piece weighs.
        if divided && n > MOST_PIECES && self.back(at, 1).any(|i| self.role(i, Role::At).is_some()) {
            return Some((What::Pieces(PiecesTold { piece_g: Some(f64::from(n)), ..PiecesTold::default() }), end));
        }
        // `cut 12`, but no `roll 2 cm thick`
        let cut = self.clause_ends(end) && self.back(at, 1).any(|i| self.role(i, Role::Divide).is_some());
        if ((self.yields_before(at) || cut) && free) || (divided && self.named_pieces(end, limit, free)) {
            let serves = self.role(end, Role::Serves).is_some();
            return (!serves).then_some((What::Pieces(PiecesTold { count: Some(n), ..PiecesTold::default() }), end));
        }
        None
    }

    /// Behind "divide into" a number counts pieces, whatever they are called, if no ingredient is named.
    fn named_pieces(&self, end: usize, limit: usize, free: bool) -> bool {
        free || self.name_behind(end, limit).is_none_or(|n| n.at > end + 1)
    }

    /// A word for pieces within three words, and the token behind it.
    fn piece_word(&self, at: usize, limit: usize) -> Option<(Option<Shape>, usize)> {
        for i in at..limit.min(at + 3) {
            if let Some((shape, end)) = self.pick(i, |r| if let Role::Piece(s) = r { Some(s) } else { None }) {
                return Some((shape, end));
            }
            let adjective = self.tok(i).is_some_and(Token::is_word) || self.mark(i, '-');
            let stops = self.pick(i, |r| {
                matches!(r, Role::Stop | Role::And | Role::Of | Role::Unit(_) | Role::Holder(_) | Role::Then | Role::At | Role::Minutes(_))
                    .then_some(())
            });
            if !adjective || stops.is_some() {
                return None;
            }
        }
        None
    }

    /// `mąka żytnia 720 - 500 g`: of a flour's two numbers the first, without a unit, is its grade.
    fn behind_type(&self, name: &Named, at: usize, limit: usize) -> usize {
        let grade = |v: f64| (400.0..=2000.0).contains(&v) && v.fract() == 0.0;
        let told = self.tok(at).and_then(Token::value).is_some_and(grade);
        let mark = ['-', ':', ',', '=', '|'].iter().any(|m| self.mark(at + 1, *m));
        let behind = at + 1 + usize::from(mark);
        let weighed = || self.amount(behind, limit).is_some_and(|(a, _)| a.is_measured());
        if name.ingredient.family == Family::Flour && told && weighed() { behind } else { at }
    }

    /// `rye T130`: a letter and a figure grown together tell the grade of a flour, not how much.
    fn flour_type(&self, at: usize) -> bool {
        let letter = self.tok(at).is_some_and(|t| t.is_word() && t.text.len() == 1);
        letter && self.tok(at + 1).is_some_and(|n| !n.spaced && n.value().is_some_and(|v| v >= 45.0))
    }

    /// `of about 105 g`, `(about 85 g each)`, `at 60 g` behind pieces.
    fn weight_each(&self, at: usize, limit: usize) -> Option<(f64, usize)> {
        let mut i = at;
        while i < limit.min(at + 5) {
            if let Some((a, end)) = self.amount(i, limit).filter(|(a, _)| a.unit.is_some()) {
                let named = self.name_behind(end, limit).filter(|n| n.at <= end + 1).is_some();
                return a.mass().filter(|_| !named).map(|m| (m.likely, end));
            }
            let between = [',', '(', '@', '~', '-'].iter().any(|m| self.mark(i, *m));
            let joint = self.pick(i, |r| matches!(r, Role::Of | Role::At | Role::Approx | Role::Each).then_some(())).map(|(_, e)| e);
            let joint = joint.or_else(|| (self.word(i, "weighing") || self.word(i, "x")).then_some(i + 1));
            i = if between { i + 1 } else { joint? };
        }
        None
    }

    fn holder_within(&self, at: usize, limit: usize) -> Option<super::lexicon::Holder> {
        (at..limit.min(at + 3))
            .take_while(|i| self.tok(*i).is_some_and(|t| t.is_word() || t.is('-')))
            .find_map(|i| self.pick(i, |r| if let Role::Holder(h) = r { Some(h) } else { None }))
            .map(|(h, _)| h)
    }

    fn yields_before(&self, at: usize) -> bool {
        let colon = self.back(at, 1).next().is_some_and(|i| self.mark(i, ':'));
        let is_yield = |i: usize| self.role(i, Role::Yield).is_some_and(|end| end + usize::from(colon) == at);
        let approx =
            self.back(at, 3).any(|i| self.role(i, Role::Yield).is_some_and(|end| end < at && self.approx(end, at).1 == at || end == at));
        approx || self.back(at, 3).any(is_yield)
    }

    /// `divide the dough into`, `cut in`, `ball at`.
    fn divides_before(&self, at: usize) -> bool {
        let joint =
            self.back(at, 2).find(|i| self.pick(*i, |r| matches!(r, Role::Into | Role::At).then_some(())).is_some_and(|(_, e)| e == at));
        let verb = |i: usize| self.pick(i, |r| matches!(r, Role::Divide).then_some(())).is_some();
        let far = |from: usize| self.back(from, DIVIDE_REACH).take_while(|i| !self.mark(*i, '.') && !self.mark(*i, ';')).any(verb);
        joint.is_some_and(far) || self.back(at, 1).any(|i| verb(i) && !self.word(i, "roll") && !self.word(i, "cut"))
    }

    /// An amount of an ingredient, or one whose name is not known.
    pub(super) fn amount_of(&self, at: usize, sum: Sum<'a>, end: usize, limit: usize) -> Option<Figure<'a>> {
        let (_, first) = sum.first()?;
        let from = self.behind_asides(end, limit);
        let from = self.role(from, Role::Of).unwrap_or(from);
        let named = self.name_behind(from, limit);
        // `1 can coconut milk` is a measure only of what comes in cans.
        if let Some(name) = named {
            let near = name.at <= from + 3 || first.unit.is_some();
            let bare = first.unit.is_none() && sum.len() == 1;
            let counted = Self::is_counted(&name.ingredient) || first.container;
            let takes = !bare || (near && (counted || !first.article));
            if takes && !(first.article && bare && !counted) {
                let tail = name.end;
                let told = Told::new(sum, name, end, tail);
                return Some((What::Line(Box::new(told)), tail));
            }
        }
        if first.article && first.unit.is_none() {
            return None;
        }
        if first.unit.is_none() && !first.container {
            return Some((What::Bare(first.value), end)).filter(|_| self.number(at).is_some() || self.approx(at, limit).0);
        }
        // The size of a tin is no amount.
        let piece_unit = first.unit.is_some_and(|u| u.kind == MeasureKind::Piece);
        if self.holder_within(end, limit).is_some() {
            return Some((What::Passed, end));
        }
        if piece_unit && first.article {
            return None;
        }
        Some((What::Nameless { sum, corrects: false }, end))
    }

    /// Behind brackets and other measures of the same amount that stand before the name: `4 cups (500 g) flour`, `450g/1lb`.
    pub fn behind_asides(&self, at: usize, limit: usize) -> usize {
        let mut i = at;
        loop {
            if self.mark(i, '(') && i < limit {
                i = (self.closing(i, limit) + 1).min(limit);
            } else if i == at && (self.mark(i, '|') || self.mark(i, '\t')) && self.tok(i + 1).is_some_and(Token::is_word) {
                i += 1;
            } else if (self.mark(i, '/') || self.mark(i, '=') || self.mark(i, ',') && self.tok(i + 1).is_some_and(|t| t.value().is_some()))
                && let Some((_, end)) = self.amount(i + 1, limit).filter(|(a, _)| a.unit.is_some())
                && (!self.mark(i, ',') || self.role(end, Role::Of).is_some())
            {
                i = end;
            } else {
                return i;
            }
        }
    }

    /// A name that stands before its amount: `water 510`, `salt: 10 g`, `Butter | 3 tbsp (42 g)`.
    pub fn name_first(&self, at: usize, limit: usize) -> Option<Figure<'a>> {
        let name = (at..limit.min(at + 3))
            .take_while(|i| self.tok(*i).is_some_and(|t| t.is_word() || t.value().is_some()))
            .find_map(|i| self.name_at(i, limit, true))?;
        // `butter the size of a walnut`
        if let Some((_, end)) = self.unit(name.end, 1.0).filter(|(u, e)| u.id == "walnut-of" && *e <= limit) {
            let (sum, _) = self.sum(name.end, end)?;
            return Some((What::Line(Box::new(Told::new(sum, name, end, end))), end));
        }
        let mut i = name.end;
        // What stands between: a bracket, a colon, a dash, a cell's edge, a word or two of description.
        let mut words = 0;
        loop {
            if self.mark(i, '-') && self.mark(i - 1, ':') && self.tok(i + 1).is_some_and(|t| !t.spaced) {
                // `salt: -5 g` is no amount.
                return None;
            }
            if self.mark(i, '(') {
                i = self.closing(i, limit) + 1;
            } else if [':', '-', '=', '|', '\t', '~', ';', '*'].iter().any(|m| self.mark(i, *m)) {
                i += 1;
            } else if self.flour_type(i) {
                i += 2;
            } else if words == 0
                && self.mark(i, ',')
                && self.name_at(i + 1, limit, true).is_none_or(|n| n.weak && n.ingredient.family == name.ingredient.family)
            {
                // `cinnamon, ground 2 g`, `salt, 10 g`
                i += 1;
            } else if words < 3
                && self.tok(i).is_some_and(Token::is_word)
                && self.number(i).is_none()
                && self.unit(i, 1.0).is_none()
                && self
                    .pick(i, |r| matches!(r, Role::Stop | Role::And | Role::Or | Role::Verb(_) | Role::Take | Role::At).then_some(()))
                    .is_none()
            {
                words += 1;
                i += 1;
            } else {
                break;
            }
            if i >= limit {
                return None;
            }
        }
        i = self.behind_type(&name, i, limit);
        let (_, from) = self.approx(i, limit);
        let (value, number_end) = self.range(from).filter(|(_, e)| *e <= limit)?;
        if self.minutes(value, number_end).is_some() || self.size_of_tin(from, limit).is_some() {
            return None;
        }
        let told = |sum, percent, tail, name| Told { percent, ..Told::new(sum, name, tail, tail) };
        if self.mark(number_end, '%') {
            let behind = number_end + 1;
            // Where a weight follows, `salt 2 % 20 g`, `Salt 2% (24 g)`, the weight is the line's.
            let inner = behind + usize::from(self.mark(behind, '(') || self.mark(behind, '|'));
            if let Some((sum, end)) = self.sum(inner, limit).filter(|(s, _)| s.first().is_some_and(|(_, a)| a.is_measured())) {
                return Some((What::Line(Box::new(told(sum, None, end, name))), end));
            }
            return Some((What::Line(Box::new(told(Vec::new(), Some(value.likely), behind, name))), behind));
        }
        if self.temperature(from, value, number_end, limit).is_some() {
            return None;
        }
        let (sum, end) = self.sum(i, limit)?;
        let (_, first) = sum.first()?;
        if first.article && first.unit.is_none() {
            return None;
        }
        if self
            .pieces(from, first, end, limit)
            .is_some_and(|(w, _)| matches!(w, What::Pieces(p) if p.count.is_some() || p.strands.is_some()))
        {
            return None;
        }
        // `levain 60 g flour`: the amount is of the name behind it, unless that has an amount of its own.
        let cell = self.mark(end, '|') || self.mark(end, '\t');
        if let Some(next) = self.name_behind(self.behind_asides(end, limit), limit).filter(|n| n.at <= end + 2 && !n.weak && !cell) {
            let own = self.number(next.end + usize::from(self.mark(next.end, ':'))).is_some() && self.ends_in_amount(next.end, limit);
            if !own && next.ingredient.id != name.ingredient.id {
                return None;
            }
        }
        Some((What::Line(Box::new(told(sum, None, end, name))), end))
    }

    /// Whether the clause ends in a figure or its unit: names then stand before their amounts.
    fn ends_in_amount(&self, at: usize, limit: usize) -> bool {
        let end = (at..limit).find(|i| self.clause_ends(*i)).unwrap_or(limit);
        end.checked_sub(1).and_then(|i| self.tok(i)).is_some_and(|t| t.value().is_some() || t.is('%'))
            || end.checked_sub(2).is_some_and(|i| self.number(i).is_some() && self.unit(i + 1, 1.0).is_some())
    }

    /// `zest of 1 lemon`, `the juice of half an orange`.
    pub fn fruit_part(&self, at: usize, limit: usize) -> Option<Figure<'a>> {
        let (part, end) = self.pick(at, |r| match r {
            Role::Zest => Some("zest"),
            Role::Juice => Some("juice"),
            _ => None,
        })?;
        let end = self.role(end, Role::Of).unwrap_or(end);
        let (value, behind) = self.range(end).map_or((Band::exact(1.0), end), |found| found);
        let behind = self.size(behind).map_or(behind, |(_, e)| e);
        let (fruit, last) = self.pick(behind, |r| if let Role::Fruit(f) = r { Some(f) } else { None }).filter(|(_, e)| *e <= limit)?;
        let ingredient = self.pantry.get(&format!("{fruit}-{part}"))?.clone();
        let name = Named { ingredient, at: behind, end: last, guessed: false, words: 1, weak: false };
        let count = Amount {
            value,
            unit: None,
            unit_word: "",
            doubtful: false,
            level: None,
            packed: false,
            heaped: false,
            approx: false,
            article: false,
            times: None,
            size: None,
            container: false,
        };
        let told = Told::new(vec![(1.0, count)], name, last, last);
        Some((What::Line(Box::new(told)), last))
    }
}

fn count(value: f64) -> Option<u32> {
    let whole = value.fract() == 0.0 && (1.0..=500.0).contains(&value);
    #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to 500")]
    whole.then_some(value as u32)
}
