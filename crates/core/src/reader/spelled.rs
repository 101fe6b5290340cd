//! Numbers written in one word.

use super::lexicon::Lexicon;
use crate::pantry::Languages;

/// A number written in one word: `zweihundertfünfzig`, `cinquecento`, `vijfentwintig`.
pub(super) fn spelled(word: &str, lexicon: &Lexicon, languages: Languages) -> Option<f64> {
    let known = |w: &str| lexicon.number_word(w, languages);
    let joints = lexicon.spelled.joints.as_slice();
    for hundred in &lexicon.spelled.hundreds {
        if let Some((left, right)) = word.split_once(hundred.as_str()) {
            let left = if left.is_empty() { Some(1.0) } else { known(left) };
            let right = joints.iter().find_map(|j| right.strip_prefix(j.as_str())).unwrap_or(right);
            let right = if right.is_empty() { Some(0.0) } else { known(right).or_else(|| tens(right, joints, &known)) };
            return left.zip(right).map(|(l, r)| l * 100.0 + r);
        }
    }
    tens(word, joints, &known)
}

/// `fünfundzwanzig`: units before tens; `venticinque`: behind them.
fn tens(word: &str, joints: &[String], known: &impl Fn(&str) -> Option<f64>) -> Option<f64> {
    for joint in joints {
        for (at, _) in word.match_indices(joint.as_str()) {
            let (unit, ten) = (word.get(..at)?, word.get(at + joint.len()..)?);
            if let (Some(u), Some(t)) = (known(unit).filter(|u| *u < 10.0), known(ten).filter(|t| *t >= 20.0)) {
                return Some(t + u);
            }
        }
    }
    word.char_indices().skip(3).find_map(|(at, _)| {
        let (ten, unit) = (word.get(..at)?, word.get(at..)?);
        known(ten).filter(|t| (20.0..100.0).contains(t)).zip(known(unit).filter(|u| *u < 10.0)).map(|(t, u)| t + u)
    })
}
