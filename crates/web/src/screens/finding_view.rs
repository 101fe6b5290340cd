use cerealis_core::{findings::Finding, measure::Working};

/// A remedy as a button.
#[derive(Debug, Clone)]
pub struct RemedyView {
    /// Its words.
    pub label: String,
    /// What the form sends.
    pub value: String,
    /// Whether it is the deed to take first: it changes something.
    pub first: bool,
    /// Where the focus goes after the deed before.
    pub focused: bool,
}

/// A finding as it is printed.
#[derive(Debug, Clone)]
pub struct FindingView {
    /// `note`, `caution`, `stop`.
    pub severity: &'static str,
    /// The first words, which say what is wrong.
    pub head: String,
    /// The rest.
    pub rest: String,
    /// Why it matters.
    pub why: &'static str,
    /// Who says so.
    pub source: &'static str,
    /// Buttons.
    pub remedies: Vec<RemedyView>,
    /// A deed that is another page: its words, its address.
    pub link: Option<(String, String)>,
}

impl FindingView {
    /// A line of the recipe that tells no amount: nothing is wrong with it, and nothing is counted.
    #[must_use]
    pub fn unweighed(name: &str) -> Self {
        Self {
            severity: "note",
            head: "No amount,".into(),
            rest: format!("so {} is in no percentage. Add a line if it should count.", name.to_lowercase()),
            why: "",
            source: "",
            remedies: Vec::new(),
            link: None,
        }
    }

    /// A finding of its page.
    #[must_use]
    pub fn new(f: &Finding) -> Self {
        let cut = f
            .message
            .char_indices()
            .find(|(i, c)| matches!(c, '.' | '?' | ':') && f.message.get(i + 1..).is_some_and(|r| r.starts_with(' ')));
        let (head, rest) = cut.map_or((f.message.as_str(), ""), |(i, _)| f.message.split_at(i + 1));
        let remedy = |(i, r): (usize, &cerealis_core::findings::Remedy)| RemedyView {
            label: r.label.clone(),
            value: format!("remedy:{}", f.key(r)),
            first: i == 0 && !r.changes.is_empty(),
            focused: false,
        };
        Self {
            severity: f.severity.word(),
            head: head.to_owned(),
            rest: rest.trim().to_owned(),
            why: f.why,
            source: f.source,
            remedies: f.remedies.iter().enumerate().map(remedy).collect(),
            link: None,
        }
    }
}

/// Steps of a working as rows: what, the figure, how and by whom.
#[must_use]
pub fn worked_out(steps: &[Working]) -> Vec<(String, String, String)> {
    let how = |s: &Working| [s.formula.clone().unwrap_or_default(), s.source.map(|s| format!("({s})")).unwrap_or_default()].join(" ");
    steps.iter().map(|s| (s.label.clone(), s.told(), how(s))).collect()
}
