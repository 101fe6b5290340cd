use std::path::{Path, PathBuf};

/// What can be the matter with the household's file itself.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Trouble {
    /// The file, its log of changes or its folder is no longer where it was, or another one is there.
    Gone,
    /// A part of it is no longer what was written.
    Damaged,
    /// It may be read and not written.
    ReadOnly,
    /// There is no room for more.
    Full,
}

impl Trouble {
    /// By what SQLite says.
    fn of(message: &str) -> Option<Self> {
        let told = |words: &[&str]| words.iter().any(|w| message.contains(w));
        if told(&["malformed", "not a database"]) {
            Some(Self::Damaged)
        } else if told(&["readonly"]) {
            Some(Self::ReadOnly)
        } else if told(&["is full"]) {
            Some(Self::Full)
        } else if told(&["unable to open", "disk I/O error"]) {
            Some(Self::Gone)
        } else {
            None
        }
    }

    /// What has happened to the file, and what is to be done.
    fn told(self, file: &Path) -> String {
        let file =
            if file.as_os_str().is_empty() { "The kitchen's file".to_owned() } else { format!("The kitchen's file {}", file.display()) };
        match self {
            Self::Gone => format!(
                "{file} is no longer where it was, or another one is in its place. Nothing more is kept. End Cerealis, put the whole folder back, \
                 or go on from a copy: cerealis restore FILE --data FOLDER."
            ),
            Self::Damaged => {
                format!("{file} is damaged. End Cerealis and go on from a copy: cerealis restore FILE --data FOLDER, into an empty folder.")
            }
            Self::ReadOnly => {
                format!("{file} may be read and not written: nothing new is kept. Give the file and its folder back their rights.")
            }
            Self::Full => format!("{file} has no room to grow: what was sent is not kept. Make room on the disk, then try again."),
        }
    }
}

/// What can go wrong in the store.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// There is no row with this id.
    #[error("There is nothing here under that name.")]
    NotFound,
    /// The stored state forbids it.
    #[error("{0}")]
    Conflict(String),
    /// Someone else is writing; it may work in a moment.
    #[error("The kitchen's book is busy. Try again in a moment.")]
    Busy,
    /// The database was made by a newer program.
    #[error("This household was written by a newer Cerealis; this one does not touch it.")]
    Newer,
    /// The file is no household.
    #[error("This is no household of Cerealis.")]
    Foreign,
    /// A stored row cannot be read. This should never occur in normal usage.
    #[error("What stands here cannot be read ({0}).")]
    Unreadable(String),
    /// Something is the matter with the file itself.
    #[error("{}", .trouble.told(.file))]
    File {
        /// What.
        trouble: Trouble,
        /// Which file.
        file: PathBuf,
    },
    /// The database itself failed.
    #[error("The kitchen's book failed: {0}")]
    Failed(String),
}

impl StoreError {
    /// By what SQLite says.
    pub(crate) fn said(message: &str) -> Self {
        match Trouble::of(message) {
            Some(trouble) => Self::File { trouble, file: PathBuf::new() },
            None if message.contains("locked") => Self::Busy,
            None => Self::Failed(message.to_owned()),
        }
    }

    /// The same, naming the file it is about.
    #[must_use]
    pub fn at(self, file: &Path) -> Self {
        match self {
            Self::File { trouble, .. } => Self::File { trouble, file: file.to_owned() },
            other => other,
        }
    }
}

impl From<diesel::result::Error> for StoreError {
    fn from(error: diesel::result::Error) -> Self {
        use diesel::result::Error as E;
        match error {
            E::NotFound => Self::NotFound,
            E::DatabaseError(diesel::result::DatabaseErrorKind::UniqueViolation, _) => {
                Self::Conflict("There is one of that name or key already.".to_owned())
            }
            other => Self::said(&other.to_string()),
        }
    }
}

impl From<serde_json::Error> for StoreError {
    fn from(error: serde_json::Error) -> Self {
        Self::Unreadable(error.to_string())
    }
}

impl From<crate::bodies::Unread> for StoreError {
    fn from(error: crate::bodies::Unread) -> Self {
        Self::Unreadable(error.0)
    }
}
