//! The core's tables with the household's own things in them.

use std::sync::{Arc, PoisonError, RwLock};

use cerealis_core::{Tables, measure::Units};
use cerealis_store::{Database, StoreError, shelf};

/// The tables as they are now; changed whole when the household adds something. Cheap to clone.
#[derive(Debug, Clone)]
pub struct Household {
    built_in: Arc<Tables>,
    now: Arc<RwLock<Now>>,
}

#[derive(Debug)]
struct Now {
    tables: Arc<Tables>,
    units: Units,
}

impl Household {
    /// The built-in tables with what the household's book adds to them.
    ///
    /// # Errors
    /// If the book cannot be read.
    pub fn open(built_in: Tables, db: &Database) -> Result<Self, StoreError> {
        let built_in = Arc::new(built_in);
        let household = Self { now: Arc::new(RwLock::new(Now { tables: built_in.clone(), units: Units::METRIC })), built_in };
        household.renew(&mut *db.connection()?)?;
        Ok(household)
    }

    /// The tables.
    #[must_use]
    pub fn tables(&self) -> Arc<Tables> {
        self.now.read().unwrap_or_else(PoisonError::into_inner).tables.clone()
    }

    /// What it reads its figures in.
    #[must_use]
    pub fn units(&self) -> Units {
        self.now.read().unwrap_or_else(PoisonError::into_inner).units
    }

    /// The tables without the household's own things, by which these are checked.
    #[must_use]
    pub fn built_in(&self) -> &Tables {
        &self.built_in
    }

    /// Reads the household's own things and units again.
    ///
    /// # Errors
    /// If the book cannot be read.
    pub fn renew(&self, db: &mut cerealis_store::SqliteConnection) -> Result<(), StoreError> {
        let (mut tables, refused) = self.built_in.with(&shelf::get(db)?);
        // In thinner air the same gas lifts a dough farther: every rise of this house is reckoned so.
        let kitchen = cerealis_store::kitchen::get(db)?;
        tables.ferment = tables.ferment.at_altitude(kitchen.altitude_m).into_owned();
        for (id, errors) in refused {
            tracing::warn!(id, %errors, "this one of the household's own things can no longer be used");
        }
        *self.now.write().unwrap_or_else(PoisonError::into_inner) = Now { tables: Arc::new(tables), units: kitchen.units };
        Ok(())
    }
}
