//! One ingredient line: amount, unit, name, and what the words around them say.

use super::{
    Choices,
    amount::{Amount, amount, mass_of, percent_at},
    ask,
    questions::{Answer, Question},
    tokens::{Cursor, Kind, Token, tokens},
    weigh::Weighing,
};
use crate::{
    formula::Stage,
    measure::Band,
    pantry::{Family, Ingredient, NameMatch, Pantry, fold},
};
use std::sync::Arc;

/// A line as it was read.
#[derive(Debug, Clone)]
pub struct ReadLine {
    /// As written.
    pub source: String,
    /// Line of the text, from 0.
    pub source_line: usize,
    /// What it is.
    pub ingredient: Arc<Ingredient>,
    /// How much; `None` for "to taste" and the like.
    pub grams: Option<Band>,
    /// When it goes in.
    pub stage: Stage,
    /// Temperature told for it, °C.
    pub temp_c: Option<f64>,
    /// Whether it may be left out.
    pub optional: bool,
    /// Whether it was measured by volume.
    pub by_volume: bool,
    /// What is asked.
    pub questions: Vec<Question>,
    /// The other ingredient of "A or B", and how much of it where that is told.
    pub alternative: Option<(Arc<Ingredient>, Option<f64>)>,
    /// Percent of flour, for a line in baker's percent.
    pub percent: Option<f64>,
}

const SIZES: &[&str] = &["small", "medium", "large", "big"];

/// What reading one piece of text gave.
pub(super) enum Outcome {
    /// Ingredient lines: one, or two ("1 egg + 2 yolks").
    Lines(Vec<ReadLine>),
    /// Digits or units, but no sense.
    Unread,
    /// No amount and no ingredient.
    Remark,
}

/// A line as it stands in the text, and what it is read with.
#[derive(Clone, Copy)]
pub(super) struct Written<'a> {
    /// As written.
    pub source: &'a str,
    /// Line of the text, from 0.
    pub source_line: usize,
    /// The list it stands in.
    pub section: Option<Stage>,
    /// The pantry.
    pub pantry: &'a Pantry,
    /// How the household measures.
    pub choices: &'a Choices,
    /// What stands before it in the same line: `60 g butter, plus 20 g for the tin`.
    pub before: Option<&'a Arc<Ingredient>>,
}

impl<'a> Written<'a> {
    /// Reads one line of ingredients.
    pub fn read(&self, text: &str) -> Outcome {
        let tokens = tokens(text);
        if tokens.is_empty() {
            return Outcome::Remark;
        }
        let broken = tokens.iter().any(|t| t.kind == Kind::Broken) || has_bad_fraction(&tokens) || has_odd_number(&tokens);
        let mut cursor = Cursor::new(&tokens);
        // A percent line: `2 % salt`.
        let percent = percent_at(&cursor);
        if let Some((value, used)) = percent {
            cursor.at += used;
            let rest = rest_of(text, &cursor);
            return match self.pantry.named_in(rest) {
                Some((i, _)) => Outcome::Lines(vec![ReadLine { percent: Some(value), ..self.line(i, None, rest) }]),
                None => Outcome::Unread,
            };
        }
        if broken {
            return Outcome::Unread;
        }
        let lead = amount(&mut cursor, self.pantry, self.choices);
        if let Some(first) = lead {
            return self.amount_line(text, &tokens, cursor, first);
        }
        self.named_line(text, &tokens)
    }

    /// A line of this ingredient; `words` are what stands beside its amount.
    fn line(&self, ingredient: &Arc<Ingredient>, grams: Option<Band>, words: &str) -> ReadLine {
        // What is over for dusting says nothing of the line itself.
        let own = ["plus extra", "plus more", "plus a little"].iter().find_map(|p| words.split_once(p)).map_or(words, |(own, _)| own);
        let folded = format!(" {} ", fold(own));
        let finish = FINISHING.iter().any(|p| folded.contains(p));
        let told = PURPOSES.iter().find(|(p, _)| folded.contains(p)).map(|(_, stage)| *stage);
        let stage = if finish {
            Stage::Finish
        } else if let Some(told) = told {
            told
        } else {
            self.section.filter(|s| *s != Stage::Dough).unwrap_or_else(|| Stage::usual(ingredient))
        };
        let stage = match (stage, ingredient.family) {
            // What stands in a leaven's or soaker's list is there, whatever its usual moment.
            (Stage::Dough, Family::Alkali) if folded.contains("bath") || folded.contains("dip") || folded.contains("boil") => Stage::Finish,
            (other, _) => other,
        };
        ReadLine {
            source: self.source.to_owned(),
            source_line: self.source_line,
            ingredient: ingredient.clone(),
            grams,
            stage,
            temp_c: temperature(words, &folded),
            optional: folded.contains(" optional "),
            by_volume: false,
            questions: Vec::new(),
            alternative: None,
            percent: None,
        }
    }

    /// A line that begins with its amount.
    fn amount_line<'t>(&self, text: &'t str, tokens: &'t [Token<'t>], mut cursor: Cursor<'t>, first: Amount<'t>) -> Outcome
    where
        'a: 't,
    {
        let mut sum = vec![(1.0, first)];
        // `1 cup plus 2 tablespoons`, `1 lb 2 oz`, `1 cup minus 1 tbsp`
        loop {
            let mut probe = cursor;
            let sign = match probe.word(0) {
                Some("plus" | "und" | "et") => 1.0,
                Some("and") if probe.peek(1).is_some() => 1.0,
                Some("minus" | "less") => -1.0,
                _ if probe.peek(0).is_some_and(|t| t.is('+')) => 1.0,
                Some(_) | None => 0.0,
            };
            if sign != 0.0 {
                probe.at += 1;
            }
            let Some(next) = amount(&mut probe, self.pantry, self.choices) else { break };
            let joins = next.unit.is_some() && (sign != 0.0 || sum.last().is_some_and(|(_, a)| next.goes_on(a)));
            if !joins {
                break;
            }
            sum.push((if sign < 0.0 { -1.0 } else { 1.0 }, next));
            cursor = probe;
        }
        let mut words = Vec::new();
        while let Some(w) = cursor
            .word(0)
            .filter(|w| SIZES.contains(w) || matches!(*w, "of" | "extra" | "free" | "range" | "the" | "level" | "heaped" | "de" | "d"))
        {
            words.push(w);
            cursor.at += 1;
            if cursor.peek(0).is_some_and(|t| t.is('-')) {
                cursor.at += 1;
            }
        }
        let rest = rest_of(text, &cursor).to_owned();
        let head = text.get(..text.len() - rest.len()).unwrap_or_default();
        // `1/2 teaspoon each cinnamon and nutmeg`
        if let Some(list) = rest.strip_prefix("each ").or_else(|| rest.strip_prefix("each of ")) {
            let each = list.split(" and ").flat_map(|part| part.split(',')).map(str::trim).filter(|name| !name.is_empty());
            let lines: Option<Vec<_>> = each
                .map(|name| match self.read(&format!("{head}{name}")) {
                    Outcome::Lines(lines) => Some(lines),
                    Outcome::Unread | Outcome::Remark => None,
                })
                .collect();
            return lines.map_or(Outcome::Unread, |l| Outcome::Lines(l.concat()));
        }
        let named = name_part(&rest);
        // `1 egg + 2 yolks`, `2 eggs plus 1 yolk`
        if let Some((a, b)) = split_second(&rest)
            && let (Outcome::Lines(mut one), Outcome::Lines(two)) = (self.read(&format!("{head}{a}")), self.read(b))
        {
            // The purpose behind both is the purpose of both.
            if two.iter().any(|l| l.stage == Stage::Finish) {
                one.iter_mut().for_each(|l| l.stage = Stage::Finish);
            }
            one.extend(two);
            return Outcome::Lines(one);
        }
        // `500 g flour (70 % bread, 30 % rye)`
        if let Some(parts) = percent_mix(&rest, self.pantry)
            && let Some(total) = sum.first().and_then(|(_, a)| mass_of(a))
        {
            let lines = parts.into_iter().map(|(share, i)| self.line(&i, Some(total.times(share)), "")).collect();
            return Outcome::Lines(lines);
        }
        // `1 orange, zest only`
        if ["zest only", "juice only", "zested", "juiced"].iter().any(|w| rest.ends_with(w)) {
            return self.whole_fruit(text, tokens, 0);
        }
        let told = self.pantry.named_in(&named).or_else(|| self.pantry.named_in(&rest));
        let again = || self.before.map(|i| (i, NameMatch { ingredient: 0, words: 0, at: 0, guessed: false }));
        let Some((ingredient, found)) = told.or_else(again) else {
            return if sum.iter().any(|(_, a)| a.unit.is_some()) { Outcome::Unread } else { unread_or_remark(tokens) };
        };
        let mut ingredient = ingredient.clone();
        let folded = format!(" {} ", fold(&rest));
        refine(&mut ingredient, &folded, self.pantry);
        let told = words.iter().copied().find(|w| SIZES.contains(w));
        let size = told.or_else(|| SIZES.iter().copied().find(|s| folded.contains(&format!(" {s} "))));
        let context = Weighing {
            ingredient: &ingredient,
            pantry: self.pantry,
            choices: self.choices,
            folded: &folded,
            size,
            extra: words.contains(&"extra"),
        };
        let mut questions = Vec::new();
        if found.guessed {
            questions
                .push(Question::new("ingredient-unknown", vec![Answer::kind("yes", format!("Yes, {}", ingredient.name), &ingredient.id)]));
        }
        let mut total: Option<Band> = None;
        let mut by_volume = false;
        for (sign, a) in &sum {
            let Some((grams, volume)) = context.grams(a, &mut questions) else { return Outcome::Unread };
            by_volume |= volume;
            total = Some(match total {
                None => grams,
                Some(t) if *sign < 0.0 => Band::new(t.low - grams.high, t.likely - grams.likely, t.high - grams.low),
                Some(t) => t.plus(grams),
            });
        }
        let Some(mut grams) = total.filter(|g| g.likely > 0.0 && g.likely <= 100_000.0) else { return Outcome::Unread };
        if let Some(alt) = in_parentheses(&rest).and_then(|inner| context.best_alternative(inner)) {
            grams = context.settle(grams, by_volume, alt, &mut questions, &mut by_volume);
        }
        let mut first_line = ReadLine { by_volume, questions, ..self.line(&ingredient, Some(grams), &rest) };
        ask::of_line(&mut first_line, &folded);
        if first_line.stage == Stage::Finish
            && ingredient.kind == "egg-whole"
            && let Some(wash) = self.pantry.get("egg-wash")
        {
            first_line.ingredient = wash.clone();
        }
        first_line.alternative = alternative(&rest, self.pantry, self.choices, &ingredient);
        if first_line.alternative.as_ref().is_some_and(|a| a.1.is_some()) {
            first_line.questions.push(Question::new("alternative", Vec::new()));
        }
        let mut lines = vec![first_line];
        if folded.contains(" plus more ") || folded.contains(" plus extra ") {
            let id = if ingredient.family == Family::Fat { "nonstick-spray" } else { "flour-for-dusting" };
            if let Some(i) = self.pantry.get(id) {
                lines.push(ReadLine { stage: Stage::Finish, ..self.line(i, Some(Band::new(5.0, 10.0, 20.0)), "") });
            }
        }
        if let Some((amount_text, rum)) = soaked_in(&rest)
            && let Outcome::Lines(mut more) = self.read(&format!("{amount_text} {rum}"))
        {
            // What thins a wash is part of the wash.
            if lines.iter().all(|l| l.stage == Stage::Finish) {
                more.iter_mut().for_each(|l| l.stage = Stage::Finish);
            }
            lines.extend(more);
        }
        Outcome::Lines(lines)
    }

    /// A line that begins with its name: `flour 500`, `salt: 10 g`, `salt to taste`.
    fn named_line<'t>(&self, text: &'t str, tokens: &'t [Token<'t>]) -> Outcome {
        let first_number = tokens.iter().position(|t| matches!(t.kind, Kind::Number { .. }));
        if let Some(at) = first_number {
            if tokens.get(at.wrapping_sub(1)).is_some_and(|t| t.is('-')) && tokens.get(at.wrapping_sub(2)).is_some_and(|t| t.is(':')) {
                return Outcome::Unread;
            }
            let name = tokens.get(at).map_or(text, |t| text.get(..t.start).unwrap_or(text));
            let mut cursor = Cursor { tokens, at };
            if name.split_whitespace().count() > 5 {
                return Outcome::Remark;
            }
            let Some((ingredient, found)) = self.pantry.named_in(name) else {
                // `juice of 2 lemons`, `zest of one orange`
                return self.whole_fruit(text, tokens, at);
            };
            if fold(name).starts_with("juice of") || fold(name).starts_with("zest of") || fold(name).starts_with("grated rind of") {
                return self.whole_fruit(text, tokens, at);
            }
            // `salt 2 %`; where a weight follows, `salt 2 % 20 g`, the weight is the line's
            if let Some((value, used)) = percent_at(&cursor) {
                let behind = Cursor { at: cursor.at + used, ..cursor };
                if amount(&mut { behind }, self.pantry, self.choices).is_some_and(|a| a.unit.is_some()) {
                    return self.read(&format!("{} {name}", rest_of(text, &behind)));
                }
                return Outcome::Lines(vec![ReadLine { percent: Some(value), ..self.line(ingredient, None, name) }]);
            }
            let Some(a) = amount(&mut cursor, self.pantry, self.choices) else { return Outcome::Unread };
            let rest = format!("{name} {}", rest_of(text, &cursor));
            let folded = format!(" {} ", fold(&rest));
            let mut ingredient = ingredient.clone();
            refine(&mut ingredient, &folded, self.pantry);
            let mut questions = Vec::new();
            if found.guessed {
                questions.push(Question::new(
                    "ingredient-unknown",
                    vec![Answer::kind("yes", format!("Yes, {}", ingredient.name), &ingredient.id)],
                ));
            }
            let context =
                Weighing { ingredient: &ingredient, pantry: self.pantry, choices: self.choices, folded: &folded, size: None, extra: false };
            let Some((grams, by_volume)) = context.grams(&a, &mut questions) else { return Outcome::Unread };
            let mut read = ReadLine { by_volume, questions, ..self.line(&ingredient, Some(grams), &rest) };
            ask::of_line(&mut read, &folded);
            return Outcome::Lines(vec![read]);
        }
        let folded = format!(" {} ", fold(text));
        if folded.contains(" juice of ") || folded.contains(" zest of ") || folded.contains(" rind of ") {
            let at = tokens.iter().position(|t| t.word().is_some_and(|w| w == "of")).map_or(0, |i| i + 1);
            return self.whole_fruit(text, tokens, at);
        }
        let vague = [
            "to taste",
            "as needed",
            "nach bedarf",
            "for dusting",
            "for the top",
            "for brushing",
            "for the pan",
            "for sprinkling",
            "for the bowl",
            "for the tin",
            "for topping",
            "optional",
            "for greasing",
            "to finish",
            "for finishing",
            "to serve",
            "to garnish",
        ]
        .iter()
        .find(|p| folded.contains(&format!(" {p} ")));
        let words = tokens.iter().filter(|t| t.word().is_some()).count();
        match self.pantry.named_in(&name_part(text)).or_else(|| self.pantry.named_in(text)) {
            Some((i, found)) if vague.is_some() || (words <= 4 && !found.guessed) => {
                let dusting = folded.contains(" for dusting ") && (i.family == Family::Flour || i.kind == "flour-for-dusting");
                let i = if dusting { self.pantry.get("flour-for-dusting").unwrap_or(i) } else { i };
                let grams = dusting.then(|| Band::new(5.0, 15.0, 40.0));
                let mut read = self.line(i, grams, text);
                if matches!(
                    vague,
                    Some(
                        &"for the top"
                            | &"for sprinkling"
                            | &"for topping"
                            | &"for the pan"
                            | &"for the bowl"
                            | &"for the tin"
                            | &"for greasing"
                            | &"for brushing"
                            | &"to finish"
                            | &"for finishing"
                            | &"to serve"
                            | &"to garnish"
                    )
                ) {
                    read.stage = Stage::Finish;
                } else if !dusting && read.stage != Stage::Finish {
                    let id = if folded.contains(" to taste ") { "to-taste" } else { "vague-amount" };
                    read.questions.push(Question::new(id, Vec::new()));
                }
                Outcome::Lines(vec![read])
            }
            _ => Outcome::Remark,
        }
    }

    /// `juice of 2 lemons`, `zest of one orange`.
    fn whole_fruit(&self, text: &str, tokens: &[Token<'_>], at: usize) -> Outcome {
        let folded = fold(text);
        let part = if folded.contains("juice") {
            "juice"
        } else if folded.contains("zest") || folded.contains("rind") {
            "zest"
        } else {
            return unread_or_remark(tokens);
        };
        let mut cursor = Cursor { tokens, at };
        let count = cursor.range().unwrap_or(Band::exact(1.0));
        let Some(fruit) = ["orange", "lemon", "lime"].iter().find(|f| folded.contains(*f)) else { return Outcome::Unread };
        let Some(ingredient) = self.pantry.get(&format!("{fruit}-{part}")) else { return Outcome::Unread };
        let each = ingredient.piece(if part == "juice" { "juice-of-one" } else { "of-one" }).unwrap_or(Band::exact(10.0));
        let grams = Band::new(each.low * count.low, each.likely * count.likely, each.high * count.high);
        let mut read = self.line(ingredient, Some(grams), text);
        if part == "juice" {
            read.questions.push(Question::new("size-of-piece", Vec::new()));
        }
        Outcome::Lines(vec![read])
    }
}

/// `1/0`, `3//4`: something that looks like a fraction and is none.
fn has_bad_fraction(tokens: &[Token<'_>]) -> bool {
    tokens
        .windows(2)
        .any(|w| matches!(w, [a, b] if a.is('/') && (b.is('/') || matches!(b.kind, Kind::Number { value, .. } if value == 0.0))))
}

/// `NaN cups`, `Infinity kg`, `l00 g`.
fn has_odd_number(tokens: &[Token<'_>]) -> bool {
    let word = |t: &Token, list: &[&str]| t.word().is_some_and(|w| list.contains(&w));
    tokens.first().is_some_and(|t| word(t, &["nan", "infinity", "inf"]))
        || tokens
            .windows(2)
            .any(|w| matches!(w, [a, b] if word(a, &["l", "o"]) && a.end == b.start && matches!(b.kind, Kind::Number { .. })))
}

fn rest_of<'t>(text: &'t str, cursor: &Cursor<'_>) -> &'t str {
    cursor.peek(0).map_or("", |t| text.get(t.start..).unwrap_or_default())
}

/// Words behind a line that say what it is for.
const PURPOSES: &[(&str, Stage)] = &[
    (" for the leaven ", Stage::Leaven),
    (" for the levain ", Stage::Leaven),
    (" for the preferment ", Stage::Preferment),
    (" for the poolish ", Stage::Preferment),
    (" for the sponge ", Stage::Preferment),
    (" for the biga ", Stage::Preferment),
    (" for the soaker ", Stage::Soaker),
    (" for the scald ", Stage::Scald),
    (" for the tangzhong ", Stage::Scald),
    (" for the dough ", Stage::Dough),
    (" after kneading ", Stage::Late),
    (" folded in last ", Stage::Inclusion),
];

/// Words that say a line goes on at the end and not into the dough.
const FINISHING: &[&str] = &[
    " for brushing ",
    " for the glaze ",
    " for glazing ",
    " glaze ",
    " to serve ",
    " for dusting ",
    " for the top ",
    " for sprinkling ",
    " for topping ",
    " for the pan ",
    " for the tin ",
    " egg wash ",
    " to finish ",
    " on top ",
    " for rolling ",
    " beaten with ",
    " zum bestreichen ",
    " zum bestauben ",
    " pour dorer ",
];

/// Temperature told for a liquid: `(110 °F)`, `lukewarm`, `at 38 C`.
fn temperature(words: &str, folded: &str) -> Option<f64> {
    // Only where a figure stands is there something to take apart.
    let tokens = if words.bytes().any(|b| b.is_ascii_digit()) { tokens(words) } else { Vec::new() };
    for (i, t) in tokens.iter().enumerate() {
        if let Kind::Number { value, .. } = t.kind {
            // `105-115 F` is meant in the middle.
            let from = match (i.checked_sub(2).and_then(|b| tokens.get(b)), i.checked_sub(1).and_then(|b| tokens.get(b))) {
                (Some(Token { kind: Kind::Number { value: from, .. }, .. }), Some(joint))
                    if joint.is('-') || joint.word() == Some("to") =>
                {
                    *from
                }
                _ => value,
            };
            let value = f64::midpoint(from, value);
            let mut next = i + 1;
            let degree = tokens.get(next).is_some_and(|t| t.is('°'))
                || tokens.get(next).and_then(Token::word).is_some_and(|w| w.starts_with("degree"));
            next += usize::from(degree);
            match tokens.get(next).and_then(Token::word) {
                Some("f" | "fahrenheit") => return Some((value - 32.0) / 1.8),
                Some("c" | "celsius") => return Some(value),
                _ if degree => return Some(if value > 70.0 { (value - 32.0) / 1.8 } else { value }),
                _ => {}
            }
        }
    }
    [
        ("lukewarm", 36.0),
        ("tepid", 36.0),
        ("tiede", 36.0),
        ("lauwarm", 36.0),
        ("hand warm", 36.0),
        ("boiling", 98.0),
        ("ice cold", 2.0),
        ("just boiled", 98.0),
    ]
    .iter()
    .find(|(w, _)| folded.contains(&format!(" {w} ")))
    .map(|(_, c)| *c)
}

fn unread_or_remark(tokens: &[Token<'_>]) -> Outcome {
    if tokens.iter().any(|t| matches!(t.kind, Kind::Number { .. } | Kind::Broken)) { Outcome::Unread } else { Outcome::Remark }
}

/// Name before brackets, commas and purposes.
fn name_part(rest: &str) -> String {
    let cut = rest.find(['(', ',', ';']).map_or(rest, |i| rest.get(..i).unwrap_or(rest));
    let lower = cut.to_lowercase();
    let mut end = cut.len();
    for stop in [" for ", " to serve", " plus more", " plus extra", " or ", " optional", " - "] {
        if let Some(i) = lower.find(stop)
            && cut.is_char_boundary(i)
        {
            end = end.min(i);
        }
    }
    cut.get(..end).unwrap_or(cut).to_owned()
}

fn in_parentheses(rest: &str) -> Option<&str> {
    let open = rest.find('(')?;
    let inner = rest.get(open + 1..)?;
    Some(inner.get(..inner.find(')').unwrap_or(inner.len())).unwrap_or(inner))
}

fn split_second(rest: &str) -> Option<(&str, &str)> {
    let (a, b) = rest.split_once(" + ").or_else(|| rest.split_once(" plus ")).or_else(|| rest.split_once(" and "))?;
    b.starts_with(|c: char| c.is_ascii_digit()).then_some((a, b))
}

fn soaked_in(rest: &str) -> Option<(&str, &str)> {
    let (_, after) = rest.split_once("soaked in ").or_else(|| rest.split_once("beaten with "))?;
    let name = after.find(|c: char| c.is_alphabetic())?;
    Some((after.get(..name)?, after.get(name..)?))
}

/// `(70 % bread, 30 % rye)` after a flour.
fn percent_mix(rest: &str, pantry: &Pantry) -> Option<Vec<(f64, Arc<Ingredient>)>> {
    let inner = in_parentheses(rest).filter(|i| i.matches('%').count() >= 2)?;
    let parts = inner.split([',', ';', '/']).map(|part| {
        let (percent, name) = part.split_once('%')?;
        let share = percent.trim().parse::<f64>().ok()? / 100.0;
        let flour = pantry.find(&format!("{} flour", name.trim())).or_else(|_| pantry.find(name.trim())).ok()?;
        Some((share, flour.clone()))
    });
    let parts: Vec<_> = parts.collect::<Option<_>>()?;
    let sum: f64 = parts.iter().map(|p| p.0).sum();
    ((sum - 1.0).abs() < 0.02).then_some(parts)
}

fn alternative(rest: &str, pantry: &Pantry, choices: &Choices, first: &Arc<Ingredient>) -> Option<(Arc<Ingredient>, Option<f64>)> {
    let (_, after) = rest.split_once(" or ")?;
    let tokens = tokens(after);
    let mut cursor = Cursor::new(&tokens);
    let told = amount(&mut cursor, pantry, choices);
    let name = if told.is_some() { rest_of(after, &cursor) } else { after.split([',', '(', ';']).next().unwrap_or(after) };
    let (ingredient, _) = pantry.named_in(name)?;
    if ingredient.id == first.id {
        return None;
    }
    match told {
        Some(a) => mass_of(&a).map(|g| (ingredient.clone(), Some(g.likely))),
        // As much of something of the same kind; of another kind it is no choice but a remark.
        None => (ingredient.family == first.family).then(|| (ingredient.clone(), None)),
    }
}

/// What words beside the name settle: `fresh`, `rye` before a leaven, `salted`.
fn refine(ingredient: &mut Arc<Ingredient>, folded: &str, pantry: &Pantry) {
    let has = |w: &str| folded.contains(&format!(" {w} "));
    let id = match ingredient.kind.as_str() {
        "leaven-wheat" if has("rye") => "leaven-rye",
        "leaven-wheat" if has("stiff") => "leaven-stiff",
        "butter-unsalted" if has("salted") && !has("unsalted") => "butter-salted",
        "yeast-instant" if has("fresh") => "yeast-fresh",
        "yeast-fresh" if has("instantanee") => "yeast-instant",
        "yeast-fresh" if has("seche") || has("secco") || has("trocken") => "yeast-active-dry",
        "egg-whole" if has("yolk") || has("yolks") => "egg-yolk",
        "egg-whole" if has("white") || has("whites") => "egg-white",
        _ => return,
    };
    if let Some(i) = pantry.get(id) {
        *ingredient = i.clone();
    }
}
