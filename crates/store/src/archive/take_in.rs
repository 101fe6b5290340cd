//! An archive taken into a household. What is here already is never changed: what is the same is passed over, what differs is
//! left as it is here and told. So an archive can be taken in again and again.

use cerealis_core::{
    bake::{EventKind, NewEvent},
    kitchen::Kitchen,
    leaven::{JarEventKind, NewJarEvent},
    measure::plain,
    pantry::OwnWord,
};
use diesel::prelude::*;
use jiff::Timestamp;

use super::{Archive, BakeRecord, FormulaRecord, JarRecord, VERSION, is_id};
use crate::{
    StoreError, bakes,
    bodies::{self, Kept},
    formulas::{self, Beside},
    kitchen, leavens,
    schema::{
        bake_events, bakes as bake_rows, formula_versions, formulas as formula_rows, household_ingredients, household_pans,
        household_words, kitchen as kitchen_rows, leaven_events, leavens as jar_rows,
    },
    shelf,
};

/// What an archive holds.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum What {
    /// The kitchen's figures.
    Kitchen,
    /// An ingredient of the household's own.
    Ingredient,
    /// A pan of its own.
    Pan,
    /// A word of its own.
    Word,
    /// A version of a formula.
    Version,
    /// A bake.
    Bake,
    /// An entry in its log.
    Entry,
    /// A jar.
    Jar,
    /// An entry in its log.
    JarEntry,
}

impl What {
    /// All of them, in the order they are told in.
    pub const ALL: [Self; 9] =
        [Self::Kitchen, Self::Ingredient, Self::Pan, Self::Word, Self::Version, Self::Bake, Self::Entry, Self::Jar, Self::JarEntry];
    /// As the API writes it.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Kitchen => "kitchen",
            Self::Ingredient => "ingredient",
            Self::Pan => "pan",
            Self::Word => "word",
            Self::Version => "version",
            Self::Bake => "bake",
            Self::Entry => "entry",
            Self::Jar => "jar",
            Self::JarEntry => "jar-entry",
        }
    }
    /// One of it, and several.
    #[must_use]
    pub const fn words(self) -> (&'static str, &'static str) {
        match self {
            Self::Kitchen => ("the kitchen’s figures", "the kitchen’s figures"),
            Self::Ingredient => ("ingredient of your own", "ingredients of your own"),
            Self::Pan => ("pan of your own", "pans of your own"),
            Self::Word => ("word of your own", "words of your own"),
            Self::Version => ("version of a formula", "versions of formulas"),
            Self::Bake => ("bake", "bakes"),
            Self::Entry => ("entry in a bake’s log", "entries in the bakes’ logs"),
            Self::Jar => ("jar", "jars"),
            Self::JarEntry => ("entry in a jar’s log", "entries in the jars’ logs"),
        }
    }
}

/// Something that is not taken in: it differs from what is here, or cannot be kept.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Left {
    /// What.
    pub what: What,
    /// Its id, or its word.
    pub id: String,
    /// Its name.
    pub name: String,
    /// Why.
    pub why: String,
}

/// What something is, its id and its name.
type Named<'a> = (What, &'a str, &'a str);

/// What an archive brought, or would bring.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Brought {
    /// What is new here.
    pub new: Vec<(What, usize)>,
    /// What was here already, the same.
    pub same: usize,
    /// What is not taken in, and why.
    pub left: Vec<Left>,
}

impl Left {
    /// `bake “Harbour loaf”`.
    #[must_use]
    pub fn named(&self) -> String {
        match (self.what, self.what.words().0) {
            (What::Kitchen, figures) => figures.to_owned(),
            (_, one) => format!("{one} “{}”", self.name),
        }
    }
}

impl Brought {
    /// What it brought, or would bring, in a sentence.
    #[must_use]
    pub fn told(&self, dry: bool) -> String {
        let of = |(what, n): &(What, usize)| match what.words() {
            (one, _) if *what == What::Kitchen => one.to_owned(),
            (one, _) if *n == 1 => format!("1 {one}"),
            (_, many) => format!("{n} {many}"),
        };
        let new: Vec<String> = self.new.iter().map(of).collect();
        let brings = match (new.is_empty(), dry) {
            (true, true) => "It would bring nothing new".to_owned(),
            (true, false) => "It brought nothing new".to_owned(),
            (false, true) => format!("It would bring {}", new.join(", ")),
            (false, false) => format!("It brought {}", new.join(", ")),
        };
        let same = if self.same > 0 { format!("; {} here already", self.same) } else { String::new() };
        let left = match (self.left.len(), dry) {
            (0, _) => String::new(),
            (n, true) => format!("; {n} would not be taken in"),
            (1, false) => "; 1 is not taken in".to_owned(),
            (n, false) => format!("; {n} are not taken in"),
        };
        format!("{brings}{same}{left}.")
    }

    fn is_new(&mut self, what: What) {
        match self.new.iter_mut().find(|(w, _)| *w == what) {
            Some((_, n)) => *n += 1,
            None => self.new.push((what, 1)),
        }
    }
    fn left(&mut self, (what, id, name): Named<'_>, why: impl Into<String>) {
        self.left.push(Left { what, id: id.to_owned(), name: name.to_owned(), why: why.into() });
    }
    /// What is here against what comes.
    fn weigh<T: Kept>(&mut self, named: Named<'_>, here: Option<&str>, comes: &T) -> Weighed {
        match here.map(bodies::read::<T>) {
            None => {
                self.is_new(named.0);
                return Weighed::New;
            }
            Some(Ok(here)) if is_same(&here, comes) => {
                self.same += 1;
                return Weighed::Same;
            }
            Some(Ok(_)) => self.left(named, "It is different here, and stays as it is here."),
            Some(Err(e)) => self.left(named, e.to_string()),
        }
        Weighed::Left
    }
}

/// Whether what is here and what comes are kept the same. An archive holds its sentences in plain words, the household with
/// their quantities marked; that difference is none.
fn is_same<T: Kept>(here: &T, comes: &T) -> bool {
    let kept = |body| bodies::write(body).ok().map(|text| plain(&text).into_owned());
    kept(here).is_some_and(|here| kept(comes) == Some(here))
}

/// What comes against what is here.
#[derive(PartialEq, Eq)]
enum Weighed {
    /// It was not here.
    New,
    /// It is here, the same.
    Same,
    /// It is different here, and stays so.
    Left,
}

enum Undone {
    Dry,
    Failed(StoreError),
}

impl<E: Into<StoreError>> From<E> for Undone {
    fn from(e: E) -> Self {
        Self::Failed(e.into())
    }
}

/// Takes an archive in, all of it or nothing; with `dry` it only tells what it would bring.
///
/// # Errors
/// [`StoreError::Newer`] for an archive of a newer program; if the database does not answer.
pub fn take_in(db: &mut SqliteConnection, archive: &Archive, dry: bool) -> Result<Brought, StoreError> {
    if archive.v > VERSION {
        return Err(StoreError::Newer);
    }
    let mut brought = Brought::default();
    let done = db.immediate_transaction(|db| -> Result<(), Undone> {
        own_things(db, archive, &mut brought)?;
        for formula in &archive.formulas {
            take_formula(db, formula, &mut brought)?;
        }
        for bake in &archive.bakes {
            take_bake(db, bake, &mut brought)?;
        }
        for jar in &archive.jars {
            take_jar(db, jar, &mut brought)?;
        }
        if dry { Err(Undone::Dry) } else { Ok(()) }
    });
    brought.new.sort_unstable();
    match done {
        Ok(()) | Err(Undone::Dry) => Ok(brought),
        Err(Undone::Failed(e)) => Err(e),
    }
}

const NO_ID: &str = "An id has small letters, digits and hyphens, 500 at most.";

fn own_things(db: &mut SqliteConnection, archive: &Archive, brought: &mut Brought) -> Result<(), StoreError> {
    if let Some(comes) = archive.kitchen.as_ref().map(|k| &k.body) {
        let here: Option<String> = kitchen_rows::table.find(1).select(kitchen_rows::body).first(db).optional()?;
        // One that nobody has told anything yet is none, whatever zone its machine stands in.
        let untold = |text: &String| bodies::read::<Kitchen>(text).is_ok_and(|k| !k.is_told());
        let told = here.filter(|text| !untold(text));
        if brought.weigh((What::Kitchen, "kitchen", &comes.name), told.as_deref(), comes) == Weighed::New {
            kitchen::put(db, comes)?;
        }
    }
    for own in &archive.ingredients {
        use household_ingredients as t;
        let here: Option<String> = t::table.find(&own.id).select(t::body).first(db).optional()?;
        if !is_id(&own.id) {
            brought.left((What::Ingredient, &own.id, &own.body.name), NO_ID);
        } else if brought.weigh((What::Ingredient, &own.id, &own.body.name), here.as_deref(), &own.body) == Weighed::New {
            shelf::put_ingredient_row(db, &own.id, &own.body)?;
        }
    }
    for own in &archive.pans {
        use household_pans as t;
        let here: Option<String> = t::table.find(&own.id).select(t::body).first(db).optional()?;
        if !is_id(&own.id) {
            brought.left((What::Pan, &own.id, &own.body.name), NO_ID);
        } else if brought.weigh((What::Pan, &own.id, &own.body.name), here.as_deref(), &own.body) == Weighed::New {
            shelf::put_pan_row(db, &own.id, &own.body)?;
        }
    }
    for own in &archive.words {
        use household_words as t;
        let word = OwnWord { word: own.said.clone(), ingredient: own.ingredient.clone() };
        let here: Option<String> = t::table.find(word.key()).select(t::ingredient).first(db).optional()?;
        match here {
            None if !(1..=60).contains(&word.key().chars().count()) || !is_id(&own.ingredient) => {
                brought.left((What::Word, &own.said, &own.said), "A word has between 1 and 60 letters, and means an ingredient.");
            }
            None => {
                brought.is_new(What::Word);
                shelf::put_word_row(db, &word)?;
            }
            Some(means) if means == own.ingredient => brought.same += 1,
            Some(means) => brought.left((What::Word, &own.said, &own.said), format!("Here it means {means}.")),
        }
    }
    Ok(())
}

fn take_formula(db: &mut SqliteConnection, formula: &FormulaRecord, brought: &mut Brought) -> Result<(), StoreError> {
    use formula_versions as v;
    let id = formula.id.as_str();
    if !is_id(id) {
        brought.left((What::Version, id, id), NO_ID);
        return Ok(());
    }
    let here: Vec<(i32, String)> = v::table.filter(v::formula_id.eq(id)).select((v::version, v::body)).load(db)?;
    let there: i64 = formula_rows::table.filter(formula_rows::id.eq(id)).count().get_result(db)?;
    let mut newest = here.iter().map(|(n, _)| *n).max().unwrap_or(0);
    let mut is_there = there > 0;
    for version in &formula.versions {
        let name = formulas::name_of(&version.body);
        let told = format!("{name}, version {}", version.version);
        let same = here.iter().find(|(n, _)| *n == version.version).map(|(_, b)| b.as_str());
        if same.is_none() && version.version <= newest {
            brought.left((What::Version, id, &told), "There are later versions of it here.");
            continue;
        }
        if brought.weigh((What::Version, id, &told), same, &version.body) != Weighed::New {
            continue;
        }
        if is_there {
            diesel::update(formula_rows::table.find(id)).set(formula_rows::name.eq(name)).execute(db)?;
        } else {
            let retired = formula.retired.map(Timestamp::as_millisecond);
            let row = (formula_rows::id.eq(id), formula_rows::name.eq(name), formula_rows::retired_ms.eq(retired));
            diesel::insert_into(formula_rows::table).values(row).execute(db)?;
            is_there = true;
        }
        let beside = Beside { style: version.style.clone(), flour_g: version.flour_g, now: version.saved };
        formulas::write_version(db, id, version.version, &version.body, &beside)?;
        newest = version.version;
    }
    Ok(())
}

/// The entries of a log that come after those here, if those here are the first of it.
fn further<'l, R, T: Kept>(log: &'l [R], here: &[(i32, String)], part: impl Fn(&R) -> (i32, &T)) -> Result<&'l [R], String> {
    let (known, rest) = log.split_at(here.len().min(log.len()));
    for (record, (seq, text)) in known.iter().zip(here) {
        let (number, body) = part(record);
        let same = number == *seq && bodies::read::<T>(text).is_ok_and(|b| is_same(&b, body));
        if !same {
            return Err(format!("Its log is different here from entry {seq} on."));
        }
    }
    let mut next = here.last().map_or(0, |(seq, _)| *seq);
    for record in rest {
        if part(record).0 <= next {
            return Err("The entries of its log are not in order.".to_owned());
        }
        next = part(record).0;
    }
    Ok(rest)
}

/// The entries with their kinds, if all of these are known here.
fn known<R, K>(rest: &[R], kind: impl Fn(&R) -> (&str, Option<K>)) -> Result<Vec<(&R, K)>, String> {
    rest.iter().map(|r| kind(r).1.map(|k| (r, k)).ok_or_else(|| format!("“{}” in its log is not known here.", kind(r).0))).collect()
}

fn take_bake(db: &mut SqliteConnection, bake: &BakeRecord, brought: &mut Brought) -> Result<(), StoreError> {
    use bake_events as e;
    let id = bake.id.as_str();
    if !is_id(id) || bake.day.as_deref().is_some_and(|d| !is_id(d)) {
        brought.left((What::Bake, id, &bake.name), NO_ID);
        return Ok(());
    }
    let here: Option<(String, String)> = bake_rows::table.find(id).select((bake_rows::formula, bake_rows::plan)).first(db).optional()?;
    if let Some((formula, plan)) = &here {
        let formula = bodies::read(formula).is_ok_and(|f| is_same(&f, &bake.formula));
        let plan = bodies::read(plan).is_ok_and(|p| is_same(&p, &bake.plan));
        if !(formula && plan) {
            brought.left((What::Bake, id, &bake.name), "Its formula or plan is different here, and stays as it is here.");
            return Ok(());
        }
    }
    let log: Vec<(i32, String)> = e::table.filter(e::bake_id.eq(id)).order(e::seq).select((e::seq, e::body)).load(db)?;
    let further =
        further(&bake.log, &log, |r| (r.seq, &r.body)).and_then(|rest| known(rest, |r| (&r.body.kind, EventKind::from_word(&r.body.kind))));
    let further = match further {
        Ok(further) => further,
        Err(why) => {
            brought.left((What::Bake, id, &bake.name), why);
            return Ok(());
        }
    };
    if here.is_some() {
        brought.same += 1;
    } else {
        brought.is_new(What::Bake);
        let kept = bakes::Kept {
            id: bake.id.clone(),
            name: bake.name.clone(),
            style: bake.style.clone(),
            formula: bake.formula.clone(),
            plan: bake.plan.clone(),
            made: bake.made,
            day: bake.day.clone(),
        };
        bakes::insert(db, &kept)?;
    }
    brought.same += bake.log.len() - further.len();
    for (record, kind) in further {
        let event = NewEvent { kind, at: record.at, body: record.body.clone() };
        bakes::write_entry(db, id, record.seq, &event, record.key.as_deref())?;
        brought.is_new(What::Entry);
    }
    Ok(())
}

fn take_jar(db: &mut SqliteConnection, jar: &JarRecord, brought: &mut Brought) -> Result<(), StoreError> {
    use leaven_events as e;
    let id = jar.id.as_str();
    if !is_id(id) {
        brought.left((What::Jar, id, &jar.body.name), NO_ID);
        return Ok(());
    }
    let here: Option<String> = jar_rows::table.find(id).select(jar_rows::body).first(db).optional()?;
    let log: Vec<(i32, String)> = e::table.filter(e::leaven_id.eq(id)).order(e::seq).select((e::seq, e::body)).load(db)?;
    let further = further(&jar.log, &log, |r| (r.seq, &r.body))
        .and_then(|rest| known(rest, |r| (&r.body.kind, JarEventKind::from_word(&r.body.kind))));
    let further = match further {
        Ok(further) => further,
        Err(why) => {
            brought.left((What::Jar, id, &jar.body.name), why);
            return Ok(());
        }
    };
    match brought.weigh((What::Jar, id, &jar.body.name), here.as_deref(), &jar.body) {
        Weighed::Left => return Ok(()),
        Weighed::Same => {}
        Weighed::New => leavens::write(db, id, &jar.body, jar.made, jar.retired)?,
    }
    brought.same += jar.log.len() - further.len();
    for (record, kind) in further {
        let event = NewJarEvent { kind, at: record.at, body: record.body.clone() };
        leavens::write_entry(db, id, record.seq, &event, record.key.as_deref())?;
        brought.is_new(What::JarEntry);
    }
    Ok(())
}
