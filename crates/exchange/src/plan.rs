//! A plan in open formats: a calendar (RFC 5545), JSON, CSV, Markdown.

use cerealis_core::{
    measure::{Units, plain, say},
    plan::{PlanStep, StepKind},
};
use icalendar::{Alarm, Calendar, Component, Event, EventLike, Trigger};
use jiff::Timestamp;
use serde_json::{Value, json};

/// A plan as it goes out.
#[derive(Debug, Clone)]
pub struct PlanFile<'a> {
    /// What its acts are named by; the same for the same plan, so that a calendar replaces what it holds.
    pub id: String,
    /// The bread.
    pub name: String,
    /// Its acts.
    pub steps: &'a [PlanStep],
    /// Acts that were planned and fell away.
    pub dropped: Vec<PlanStep>,
    /// Grows whenever times may have changed.
    pub sequence: i32,
    /// When it is written.
    pub stamp: Timestamp,
    /// What stands beside the acts: dose, water, places, oven.
    pub about: Vec<(&'static str, String)>,
    /// In what people read it; programs read °C and g.
    pub units: Units,
}

/// How instants are written in a household.
#[derive(Clone, Copy)]
pub struct Clocks<'a> {
    /// Instants at which nothing may ring.
    pub quiet: &'a dyn Fn(Timestamp) -> bool,
    /// For people: day and hour of the household.
    pub people: &'a dyn Fn(Timestamp) -> String,
    /// For programs: RFC 3339 with the household's offset.
    pub data: &'a dyn Fn(Timestamp) -> String,
}

/// Formats a plan goes out in.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum PlanFormat {
    /// Calendar.
    Calendar,
    /// Own JSON.
    Json,
    /// Table.
    Csv,
    /// Page to read.
    Markdown,
}

impl PlanFormat {
    /// All of them.
    pub const ALL: [Self; 4] = [Self::Calendar, Self::Json, Self::Csv, Self::Markdown];
    /// Behind the point of a file's name.
    #[must_use]
    pub const fn extension(self) -> &'static str {
        match self {
            Self::Calendar => "ics",
            Self::Json => "json",
            Self::Csv => "csv",
            Self::Markdown => "md",
        }
    }
    /// Its media type.
    #[must_use]
    pub const fn media_type(self) -> &'static str {
        match self {
            Self::Calendar => "text/calendar; charset=utf-8",
            Self::Json => "application/json",
            Self::Csv => "text/csv; charset=utf-8",
            Self::Markdown => "text/markdown; charset=utf-8",
        }
    }
    /// Whether it is read by people, in their units and by their clock.
    #[must_use]
    pub const fn is_for_people(self) -> bool {
        matches!(self, Self::Calendar | Self::Markdown)
    }
    /// By its extension.
    #[must_use]
    pub fn from_extension(word: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|f| f.extension() == word)
    }
}

/// Whether an act stands in a calendar: hands, the oven, and when it is ready.
const fn is_act(kind: StepKind) -> bool {
    !kind.waits()
}

/// Minutes before an act at which it rings.
const fn rings(kind: StepKind) -> i64 {
    match kind {
        StepKind::OvenOn | StepKind::Load => 5,
        StepKind::Feed | StepKind::Stir => 15,
        _ => 10,
    }
}

fn utc(at: Timestamp) -> String {
    at.strftime("%Y%m%dT%H%M%SZ").to_string()
}

/// Acts with their ordinal among those of their kind: stable where times move.
fn numbered(steps: &[PlanStep]) -> Vec<(String, &PlanStep)> {
    let mut seen: Vec<(StepKind, usize)> = Vec::new();
    steps
        .iter()
        .map(|s| {
            let nth = match seen.iter_mut().find(|(kind, _)| *kind == s.kind) {
                Some((_, n)) => {
                    *n += 1;
                    *n
                }
                None => {
                    seen.push((s.kind, 1));
                    1
                }
            };
            (format!("{}-{nth}", s.kind.word()), s)
        })
        .collect()
}

impl PlanFile<'_> {
    /// Written in a format, by a household's clocks.
    #[must_use]
    pub fn write(&self, format: PlanFormat, clocks: Clocks<'_>) -> String {
        match format {
            PlanFormat::Calendar => self.calendar(clocks.quiet),
            PlanFormat::Json => plain(&serde_json::to_string_pretty(&self.json(clocks.data)).unwrap_or_default()).into_owned(),
            PlanFormat::Csv => plain(&self.csv(clocks.data)).into_owned(),
            PlanFormat::Markdown => say(&self.markdown(clocks.people), &self.units).into_owned(),
        }
    }

    /// What stands beside the acts, a line each.
    fn lines(&self) -> Vec<String> {
        self.about.iter().map(|(name, words)| format!("{name}: {words}")).collect()
    }

    fn calendar(&self, quiet: &dyn Fn(Timestamp) -> bool) -> String {
        let mut calendar = Calendar::empty();
        calendar
            .append_property(("VERSION", "2.0"))
            .append_property(("PRODID", "-//Cerealis//Plan//EN"))
            .append_property(("CALSCALE", "GREGORIAN"));
        let mut event = |key: &str, s: &PlanStep, cancelled: bool| {
            let mut e = Event::new();
            e.uid(&format!("{}-{key}@cerealis.local", self.id));
            e.add_property("DTSTAMP", utc(self.stamp));
            e.add_property("DTSTART", utc(s.start));
            e.add_property("DTEND", utc(s.end.max(s.start)));
            e.add_property("SEQUENCE", self.sequence.to_string());
            e.summary(&format!("{}: {}", self.name, s.kind.title()));
            e.location(&s.place);
            let mut words: Vec<String> = [s.sign.clone(), s.instruction.clone()].into_iter().filter(|w| !w.is_empty()).collect();
            words.extend(s.words.iter().map(|own| format!("“{own}”")));
            // The mix is where it is weighed: what stands beside the plan is told there.
            if s.kind == StepKind::Mix {
                words.extend(self.lines());
            }
            // Said before it is written: a calendar breaks its lines anywhere.
            e.description(&say(&words.join("\n"), &self.units));
            if cancelled {
                e.add_property("STATUS", "CANCELLED");
            } else if !quiet(s.start) {
                let before = chrono::Duration::minutes(-rings(s.kind));
                e.alarm(Alarm::display(s.kind.title(), Trigger::from(before)));
            }
            calendar.push(e.done());
        };
        for (key, s) in numbered(self.steps).into_iter().filter(|(_, s)| is_act(s.kind)) {
            event(&key, s, false);
        }
        let kept: Vec<String> = numbered(self.steps).into_iter().map(|(key, _)| key).collect();
        for (key, s) in numbered(&self.dropped).into_iter().filter(|(key, s)| is_act(s.kind) && !kept.contains(key)) {
            event(&key, s, true);
        }
        calendar.done().to_string()
    }

    fn json(&self, data: &dyn Fn(Timestamp) -> String) -> Value {
        let steps: Vec<Value> = self
            .steps
            .iter()
            .map(|s| {
                json!({
                    "kind": s.kind, "start": data(s.start), "end": data(s.end),
                    "from": s.low.map(data), "until": s.high.map(data),
                    "hands_on_min": s.hands_on_min, "place": s.place, "sign": s.sign, "instruction": s.instruction, "words": s.words,
                })
            })
            .collect();
        let about: serde_json::Map<String, Value> = self.about.iter().map(|(name, words)| (name.to_lowercase(), json!(words))).collect();
        json!({ "format": "cerealis-plan", "version": 1, "id": self.id, "name": self.name, "about": about, "steps": steps })
    }

    fn csv(&self, data: &dyn Fn(Timestamp) -> String) -> String {
        let mut table = csv::Writer::from_writer(Vec::new());
        let at = |t: Option<Timestamp>| t.map(data).unwrap_or_default();
        let _ = table.write_record(["kind", "start", "end", "from", "until", "hands_on_min", "place", "sign", "instruction"]);
        for s in self.steps {
            let _ = table.write_record([
                s.kind.word(),
                &data(s.start),
                &data(s.end),
                &at(s.low),
                &at(s.high),
                &s.hands_on_min.to_string(),
                &s.place,
                &s.sign,
                &s.instruction,
            ]);
        }
        table.into_inner().ok().and_then(|bytes| String::from_utf8(bytes).ok()).unwrap_or_default()
    }

    fn markdown(&self, clock: &dyn Fn(Timestamp) -> String) -> String {
        let tame = |text: &str| text.replace(['|', '\n', '*', '_', '`', '<', '>'], " ");
        let about: String = self.lines().iter().map(|l| format!("- {}\n", tame(l))).collect();
        let mut page = format!("# {}\n\n{about}\n| When | Do | Sign |\n|---|---|---|\n", tame(&self.name));
        for s in self.steps {
            let own: String = s.words.iter().map(|w| format!(" “{}”", tame(w))).collect();
            page += &format!("| {} | **{}.** {}{own} | {} |\n", clock(s.start), s.kind.title(), tame(&s.instruction), tame(&s.sign));
        }
        page
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used, clippy::indexing_slicing, reason = "tests")]
mod tests {
    use super::*;

    fn step(kind: StepKind, start: &str, sign: &str) -> PlanStep {
        let start: Timestamp = start.parse().unwrap();
        PlanStep {
            kind,
            start,
            end: cerealis_core::plan::later(start, 20.0),
            low: None,
            high: None,
            hands_on_min: 20.0,
            place: "bench".into(),
            sign: sign.into(),
            under: String::new(),
            over: String::new(),
            instruction: "Weigh out, tick each line; the salt above all, then flour, water and everything else that is needed for it."
                .into(),
            words: Vec::new(),
        }
    }

    fn read(text: &str) -> Vec<ical::parser::ical::component::IcalEvent> {
        let mut all: Vec<_> = ical::IcalParser::new(text.as_bytes()).collect();
        assert_eq!(all.len(), 1);
        all.remove(0).unwrap().events
    }

    fn value(e: &ical::parser::ical::component::IcalEvent, name: &str) -> Option<String> {
        e.properties.iter().find(|p| p.name == name).and_then(|p| p.value.clone())
    }

    #[test]
    fn an_independent_reader_finds_every_act_with_its_alarm() {
        let steps = [
            step(StepKind::Mix, "2026-11-06T18:10:00Z", "clears the bowl; smooth, elastic — löst sich"),
            step(StepKind::Bulk, "2026-11-06T18:30:00Z", "doubled"),
            step(StepKind::Fold, "2026-11-06T19:00:00Z", ""),
            step(StepKind::Fold, "2026-11-06T19:30:00Z", ""),
            step(StepKind::OvenOn, "2026-11-07T03:00:00Z", ""),
        ];
        let file = PlanFile {
            id: "b1".into(),
            name: "Skerry loaf, two".into(),
            steps: &steps,
            dropped: vec![steps[2].clone(), step(StepKind::Turn, "2026-11-07T05:00:00Z", "")],
            sequence: 3,
            stamp: "2026-11-06T16:40:00Z".parse().unwrap(),
            about: vec![("Oven", "205 °C, 31–44 min".into())],
            units: Units::METRIC,
        };
        let asleep = |t: Timestamp| t.to_string().starts_with("2026-11-07T03");
        let text = file.write(PlanFormat::Calendar, Clocks { quiet: &asleep, people: &|t| t.to_string(), data: &|t| t.to_string() });
        // RFC 5545, 3.1: lines end in CRLF and are folded at 75 octets.
        assert!(text.lines().all(|l| l.len() <= 75), "{text}");
        assert_eq!(text.matches('\n').count(), text.matches("\r\n").count());
        let events = read(&text);
        assert_eq!(events.len(), 5, "the wait is no act, the dropped turn is sent as cancelled");
        let uids: Vec<String> = events.iter().map(|e| value(e, "UID").unwrap()).collect();
        assert_eq!(uids[1..3], ["b1-fold-1@cerealis.local", "b1-fold-2@cerealis.local"]);
        assert_eq!(value(&events[0], "DTSTART").unwrap(), "20261106T181000Z");
        assert_eq!(value(&events[0], "SEQUENCE").unwrap(), "3");
        assert!(value(&events[0], "DESCRIPTION").unwrap().starts_with("clears the bowl\\; smooth\\, elastic — löst sich\\n"));
        assert_eq!(events[0].alarms.len(), 1);
        let trigger = events[0].alarms[0].properties.iter().find(|p| p.name == "TRIGGER").unwrap();
        assert!(trigger.value.as_deref().unwrap().starts_with("-PT"), "{trigger:?}");
        assert!(events[3].alarms.is_empty(), "nothing rings in the night");
        assert_eq!(value(&events[4], "STATUS").as_deref(), Some("CANCELLED"));
    }

    #[test]
    fn times_that_move_keep_their_ids() {
        let before = [step(StepKind::Mix, "2026-11-06T18:10:00Z", ""), step(StepKind::Shape, "2026-11-06T21:00:00Z", "")];
        let after = [step(StepKind::Mix, "2026-11-06T18:25:00Z", ""), step(StepKind::Shape, "2026-11-06T21:40:00Z", "")];
        let ids = |steps: &[PlanStep]| -> Vec<String> {
            let file = PlanFile {
                id: "b1".into(),
                name: "x".into(),
                steps,
                dropped: Vec::new(),
                sequence: 0,
                stamp: "2026-11-06T16:40:00Z".parse().unwrap(),
                about: vec![("Oven", "205 °C, 31–44 min".into())],
                units: Units::METRIC,
            };
            read(&file.write(PlanFormat::Calendar, Clocks { quiet: &|_| false, people: &|t| t.to_string(), data: &|t| t.to_string() }))
                .iter()
                .map(|e| value(e, "UID").unwrap())
                .collect()
        };
        assert_eq!(ids(&before), ids(&after));
    }

    #[test]
    fn table_and_page_hold_every_step() {
        let steps =
            [step(StepKind::Mix, "2026-11-06T18:10:00Z", "clears, the | bowl"), step(StepKind::Bulk, "2026-11-06T18:30:00Z", "doubled")];
        let file = PlanFile {
            id: "b1".into(),
            name: "Loaf | of <light>".into(),
            steps: &steps,
            dropped: Vec::new(),
            sequence: 0,
            stamp: "2026-11-06T16:40:00Z".parse().unwrap(),
            about: vec![("Oven", "205 °C, 31–44 min".into())],
            units: Units::METRIC,
        };
        let write = |f| {
            file.write(
                f,
                Clocks {
                    quiet: &|_| false,
                    people: &|t| t.strftime("%H:%M").to_string(),
                    data: &|t| t.strftime("%FT%H:%M+00:00").to_string(),
                },
            )
        };
        let mut rows = csv::Reader::from_reader(write(PlanFormat::Csv).into_bytes().leak() as &[u8]);
        let rows: Vec<csv::StringRecord> = rows.records().map(Result::unwrap).collect();
        assert_eq!((rows.len(), &rows[0][7]), (2, "clears, the | bowl"));
        let page = write(PlanFormat::Markdown);
        assert_eq!(page.lines().filter(|l| l.starts_with("| 18:")).count(), 2, "{page}");
        assert!(page.lines().filter(|l| l.starts_with('|')).all(|l| l.matches('|').count() == 4), "{page}");
        let json: Value = serde_json::from_str(&write(PlanFormat::Json)).unwrap();
        assert_eq!(json["steps"][1]["kind"], "bulk");
        // What stands beside the acts goes with every file a person reads; times of data carry their offset.
        assert_eq!((&json["about"]["oven"], &json["steps"][0]["start"]), (&json!("205 °C, 31–44 min"), &json!("2026-11-06T18:10+00:00")));
        assert!(page.contains("- Oven: 205 °C, 31–44 min") && rows[0][1].ends_with("+00:00"), "{page}");
    }
}
