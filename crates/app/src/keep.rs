//! Keeping a household safe from the command line: a copy and back, an archive and back.

use std::path::{Path, PathBuf};

use cerealis_store::{
    Database, StoreError,
    archive::{Archive, Brought, collect, take_in},
    copy,
};
use clap::Args;
use jiff::Timestamp;

use crate::{
    Ending,
    folder::{BOOK, hold, open},
};

/// A file and the household it is of.
#[derive(Debug, Args)]
pub struct Kept {
    /// The file.
    file: PathBuf,
    /// Folder that holds the household's data.
    #[arg(long, env = "CEREALIS_DATA")]
    data: PathBuf,
}

impl Kept {
    /// The household's own file, which must be there.
    fn book(&self) -> Result<PathBuf, Ending> {
        let book = self.data.join(BOOK);
        if book.is_file() { Ok(book) } else { Err(Ending::Keeping(format!("There is no household in {}.", self.data.display()))) }
    }
}

/// What the store says of a file, with the file.
fn of(file: &Path) -> impl Fn(StoreError) -> Ending + '_ {
    move |e| match e {
        StoreError::NotFound => Ending::Keeping(format!("There is no file {}.", file.display())),
        StoreError::Conflict(why) => Ending::Keeping(why),
        StoreError::Newer => Ending::Keeping(format!("{} was made by a newer Cerealis; this one cannot read it.", file.display())),
        StoreError::Foreign => Ending::Keeping(format!("{} is no household of Cerealis.", file.display())),
        other => Ending::Keeping(format!("{}: {other}", file.display())),
    }
}

pub fn backup(kept: &Kept) -> Result<(), Ending> {
    let holds = copy::copy(&kept.book()?, &kept.file).map_err(of(&kept.file))?;
    println!("{} holds {}.", kept.file.display(), holds.told());
    Ok(())
}

pub fn restore(kept: &Kept) -> Result<(), Ending> {
    let book = kept.data.join(BOOK);
    // A household beside leftovers of another's log would be neither.
    let leftover = [BOOK, "household.db-wal", "household.db-journal"].iter().find(|name| kept.data.join(name).exists());
    if let Some(name) = leftover {
        let here = kept.data.display();
        return Err(Ending::Keeping(format!("{here} holds {name} already. Restore into an empty folder: nothing is written over.")));
    }
    let _held = hold(&kept.data)?.ok_or_else(|| Ending::Usage(format!("{} is open in another Cerealis.", kept.data.display())))?;
    let holds = copy::restore(&kept.file, &book).map_err(of(&kept.file))?;
    println!("{} now holds {}.", kept.data.display(), holds.told());
    Ok(())
}

pub fn export(kept: &Kept) -> Result<(), Ending> {
    let book = kept.book()?;
    // While another program serves it, it is read beside that one; else it is brought up to date first.
    let (db, _held) = match hold(&kept.data)? {
        Some(held) => (Database::open(&book)?, Some(held)),
        None => (Database::beside(&book)?, None),
    };
    let archive = collect(&mut *db.connection()?, Timestamp::now())?;
    let text = archive.text().map_err(of(&kept.file))?;
    copy::write_new(&kept.file, text.as_bytes()).map_err(of(&kept.file))?;
    println!(
        "{} holds {} formulas, {} bakes, {} jars.",
        kept.file.display(),
        archive.formulas.len(),
        archive.bakes.len(),
        archive.jars.len()
    );
    for row in &archive.unreadable {
        eprintln!("cerealis: {} cannot be read and stands in the file as it is: {}", row.of, row.why);
    }
    Ok(())
}

pub fn import(kept: &Kept, dry_run: bool) -> Result<(), Ending> {
    let wrong = |why: String| Ending::Keeping(format!("{}: {why}", kept.file.display()));
    let text = std::fs::read_to_string(&kept.file).map_err(|e| wrong(e.to_string()))?;
    let archive = Archive::read(&text).map_err(of(&kept.file))?;
    let (db, _held) = open(&kept.data)?;
    let brought = take_in(&mut *db.connection()?, &archive, dry_run).map_err(of(&kept.file))?;
    say(&brought, dry_run);
    Ok(())
}

fn say(brought: &Brought, dry_run: bool) {
    println!("{}", brought.told(dry_run));
    for left in &brought.left {
        println!("{}: {}", left.named(), left.why);
    }
}
