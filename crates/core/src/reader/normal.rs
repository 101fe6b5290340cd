//! Making a line plain: one kind of space, dash and fraction; bullets off; nothing is lost, the
//! line as written stays beside it.

use unicode_normalization::UnicodeNormalization;

/// Vulgar fractions and their value as text.
const FRACTIONS: &[(char, &str)] = &[
    ('½', "1/2"),
    ('⅓', "1/3"),
    ('⅔', "2/3"),
    ('¼', "1/4"),
    ('¾', "3/4"),
    ('⅕', "1/5"),
    ('⅖', "2/5"),
    ('⅗', "3/5"),
    ('⅘', "4/5"),
    ('⅙', "1/6"),
    ('⅚', "5/6"),
    ('⅐', "1/7"),
    ('⅛', "1/8"),
    ('⅜', "3/8"),
    ('⅝', "5/8"),
    ('⅞', "7/8"),
    ('⅑', "1/9"),
    ('⅒', "1/10"),
];

const fn is_invisible(c: char) -> bool {
    matches!(c, '\u{200B}'..='\u{200F}' | '\u{202A}'..='\u{202E}' | '\u{2066}'..='\u{2069}' | '\u{FEFF}' | '\u{FE0F}')
}

/// The line in plain characters.
#[must_use]
pub fn plain(line: &str) -> String {
    let mut out = String::with_capacity(line.len() + 8);
    for c in line.chars() {
        // Most of a line is plain already.
        if matches!(c, ' '..='~') {
            out.push(c);
            continue;
        }
        if let Some((_, text)) = FRACTIONS.iter().find(|(f, _)| *f == c) {
            out.push(' ');
            out.push_str(text);
            out.push(' ');
            continue;
        }
        match c {
            '\u{2010}'..='\u{2015}' | '\u{2212}' => out.push('-'),
            'º' | '˚' => out.push('°'),
            '\u{2044}' | '\u{2215}' => out.push('/'),
            '×' => out.push('x'),
            '\u{2019}' | '\u{2018}' => out.push('\''),
            c if is_invisible(c) => {}
            c if c.is_whitespace() => out.push(' '),
            c if c.is_control() => {}
            // Arabic-Indic and Eastern digits read as digits.
            '\u{0660}'..='\u{0669}' => out.push(char::from(b'0' + (c as u32 - 0x660) as u8)),
            '\u{06F0}'..='\u{06F9}' => out.push(char::from(b'0' + (c as u32 - 0x6F0) as u8)),
            c => out.extend(std::iter::once(c).nfkc()),
        }
    }
    // `.5 oz` and `1 & 1/2 cups` as they are meant; a table's bars are spaces.
    let mut spaced = String::with_capacity(out.len());
    for word in out.split_whitespace().filter(|w| *w != "|") {
        if !spaced.is_empty() {
            spaced.push(' ');
        }
        let point = word.starts_with('.') && word[1..].starts_with(|c: char| c.is_ascii_digit());
        spaced.push_str(if point { "0" } else { "" });
        spaced.push_str(if word == "&" { "and" } else { word });
    }
    without_tags(&spaced)
}

/// What looks like markup is no part of a name.
fn without_tags(line: &str) -> String {
    let mut out = String::with_capacity(line.len());
    let mut rest = line;
    while let Some(open) = rest.find('<') {
        let (before, after) = rest.split_at(open);
        out.push_str(before);
        // What stands inside a script or style is no recipe.
        if let Some(end) = ["script", "style"]
            .iter()
            .find_map(|t| after.starts_with(&format!("<{t}")).then(|| after.find(&format!("</{t}>")).map(|i| i + t.len() + 3)).flatten())
        {
            rest = after.get(end..).unwrap_or_default();
            continue;
        }
        match after.find('>') {
            Some(close) if after[1..].starts_with(|c: char| c.is_ascii_alphabetic() || c == '/') => {
                out.push(' ');
                rest = after.get(close + 1..).unwrap_or_default();
            }
            _ => {
                out.push('<');
                rest = after.get(1..).unwrap_or_default();
            }
        }
    }
    out.push_str(rest);
    out
}

/// The line without its bullet, box or list number.
#[must_use]
pub fn without_bullet(line: &str) -> &str {
    let mut rest = line.trim();
    loop {
        let symbol = |c: char| c > '\u{2190}' && !c.is_alphanumeric() && c != '≈';
        let next = rest.trim_start_matches(|c| matches!(c, '-' | '*' | '•' | '·' | '‣') || symbol(c)).trim_start();
        let digits = next.len() - next.trim_start_matches(|c: char| c.is_ascii_digit()).len();
        let after = next.get(digits..).unwrap_or_default();
        let numbered = (1..=2).contains(&digits)
            && after.starts_with([')', '.'])
            && after[1..].starts_with(' ')
            && after[1..].trim_start().starts_with(|c: char| c.is_alphabetic() || c.is_ascii_digit());
        let bare = if numbered { after[1..].trim_start() } else { next };
        if bare == rest {
            return rest;
        }
        rest = bare;
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_kind_of_space_dash_and_fraction_becomes_one() {
        assert_eq!(plain("1¾ cups\u{a0}flour"), "1 3/4 cups flour");
        assert_eq!(plain("500\tg\tflour\u{200b}"), "500 g flour");
        assert_eq!(plain("20–25 min at 180º"), "20-25 min at 180°");
        assert_eq!(plain("٥٠٠"), "500");
        assert_eq!(plain(".5 oz salt & pepper"), "0.5 oz salt and pepper");
        assert_eq!(plain("| Water | 350 g | 70% |"), "Water 350 g 70%");
        assert_eq!(plain("<script>alert(1)</script> 2 <b>cups</b>").trim(), "2  cups");
    }

    #[test]
    fn bullets_and_list_numbers_fall_off() {
        assert_eq!(without_bullet("- 5 g salt"), "5 g salt");
        assert_eq!(without_bullet("2. Knead well"), "Knead well");
        assert_eq!(without_bullet("▢ 1) 500 g flour"), "500 g flour");
        assert_eq!(without_bullet("1.5 kg flour"), "1.5 kg flour");
    }
}
