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
    /// The database itself failed.
    #[error("The kitchen's book failed: {0}")]
    Failed(String),
}

impl From<diesel::result::Error> for StoreError {
    fn from(error: diesel::result::Error) -> Self {
        use diesel::result::Error as E;
        match error {
            E::NotFound => Self::NotFound,
            E::DatabaseError(diesel::result::DatabaseErrorKind::UniqueViolation, _) => {
                Self::Conflict("There is one of that name or key already.".to_owned())
            }
            other if other.to_string().contains("locked") => Self::Busy,
            other => Self::Failed(other.to_string()),
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
