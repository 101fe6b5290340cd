//! Findings at the lines as they were read.

use super::{RULES, finding};
use crate::{
    findings::{
        Change, Finding, Remedy,
        Severity::{Caution, Note},
        rule,
    },
    measure::{Band, grams, show_percent, to_nearest, weight},
    pantry::Family,
    reader::{ReadLine, Unread},
    water,
};

/// Findings at the lines as they were read.
#[must_use]
pub fn of_lines(lines: &[ReadLine], unread: &[Unread]) -> Vec<Finding> {
    let mut found = Vec::new();
    for u in unread.iter().filter(|u| u.source.chars().any(char::is_numeric)) {
        let words: String = u.source.chars().take(60).collect();
        let mut f = finding(
            rule!("unread-amount"),
            Caution,
            format!("We could not read “{words}”. Write it in grams, or leave it out."),
            vec![Remedy::meant("It is a remark")],
        );
        f.source_line = Some(u.source_line);
        found.push(f);
    }
    let mut index = 0;
    for line in lines {
        let here = line.grams.map(|_| {
            index += 1;
            index - 1
        });
        let mut add = |mut f: Finding| {
            f.line = here;
            f.source_line = Some(line.source_line);
            found.push(f);
        };
        if let (Some(q), Some(at)) = (line.questions.iter().find(|q| q.id == "salt-kind"), here) {
            let remedies = q
                .answers
                .iter()
                .filter_map(|a| {
                    a.grams.map(|g| {
                        Remedy::new(
                            format!("{}, {}", a.label, weight(g)),
                            vec![Change::Grams { line: at, grams: Band::exact(to_nearest(g, 0.1)), interval: true }],
                        )
                    })
                })
                .collect();
            add(finding(
                rule!("salt-kind-unknown"),
                Caution,
                concat!("A teaspoon of salt is ", grams!(2.8), " to ", grams!(6), " by the kind. Which do you have?").into(),
                remedies,
            ));
        }
        if let (Family::Leaven, true, Some(at)) = (line.ingredient.family, line.by_volume, here) {
            let answers = line.questions.iter().find(|q| q.id == "leaven-state").map_or(&[][..], |q| &q.answers);
            let remedies = answers.iter().filter_map(|a| {
                let grams = Band::exact(to_nearest(a.grams?, 1.0));
                Some(Remedy::new(format!("{}, {}", a.label, weight(grams.likely)), vec![Change::Grams { line: at, grams, interval: true }]))
            });
            let remedies = remedies.chain([Remedy::meant("I weighed it")]).collect();
            add(finding(
                rule!("leaven-in-cups"),
                Caution,
                concat!("A cup of leaven is ", grams!(150), " risen or ", grams!(240), " stirred down. Weigh it.").into(),
                remedies,
            ));
        }
        if let (Some((other, grams)), Some(_)) = (&line.alternative, here) {
            add(finding(
                rule!("alternative-open"),
                Note,
                format!(
                    "{} taken; {}{} would do as well.",
                    line.ingredient.name,
                    grams.map_or_else(String::new, |g| format!("{} ", weight(g))),
                    other.name
                ),
                vec![Remedy::meant(format!("Keep {}", line.ingredient.name))],
            ));
        }
        if let Some(c) = line.temp_c.filter(|_| matches!(line.ingredient.family, Family::Liquid))
            && let Some(severity) = water::yeast_caution(c)
        {
            add(water::hot(c, severity));
        }
    }
    found.extend(flours_in_percent(lines));
    found
}

/// Flours told in percent that do not make a hundred.
fn flours_in_percent(lines: &[ReadLine]) -> Option<Finding> {
    let flours: Vec<f64> = lines
        .iter()
        .filter(|l| l.ingredient.family == Family::Flour && l.ingredient.flour_share > 0.0)
        .map(|l| l.percent)
        .collect::<Option<_>>()?;
    let sum: f64 = flours.iter().sum();
    (!flours.is_empty() && (sum - 100.0).abs() > 1.0).then(|| {
        finding(
            rule!("flours-not-100"),
            Caution,
            format!("The flours make {} %, not 100.", show_percent(sum)),
            vec![Remedy::meant("Meant so")],
        )
    })
}
