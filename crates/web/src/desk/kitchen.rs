//! Keeping what is told of the kitchen.

use cerealis_core::{
    input::{InputErrors, Pointer},
    kitchen::{FirstAnswers, Kitchen, KitchenBody},
};

use crate::{
    State,
    edge::{Failure, on_disk},
};

/// Checks what is told of the kitchen and keeps it.
///
/// # Errors
/// Each figure that no kitchen has; the price of something that is not in the pantry.
pub async fn keep(state: &State, body: KitchenBody) -> Result<Kitchen, Failure> {
    let tables = state.tables();
    if let Some(id) = body.prices.iter().flat_map(|p| p.keys()).find(|id| tables.pantry.get(id).is_none()) {
        let here = Pointer::root().at("prices").at(id);
        return Err(Failure::Input(InputErrors::one(here, format!("“{id}” is not in the pantry."))));
    }
    change(state, move |kitchen| body.over(kitchen)).await
}

/// Keeps the answers of the first evening; of a kitchen that was told already nothing is taken back.
///
/// # Errors
/// Each answer that no kitchen has.
pub async fn first_evening(state: &State, answers: FirstAnswers) -> Result<Kitchen, Failure> {
    change(state, move |kitchen| if kitchen.is_told() { Ok(kitchen) } else { answers.told().over(kitchen) }).await
}

/// Keeps what a kilogram of an ingredient costs, or that it has no price.
///
/// # Errors
/// An ingredient that is not in the pantry; a price that is none.
pub async fn keep_price(state: &State, id: String, price: Option<f64>) -> Result<Kitchen, Failure> {
    if state.tables().pantry.get(&id).is_none() {
        return Err(Failure::Input(InputErrors::one(Pointer::root().at("id"), format!("“{id}” is not in the pantry."))));
    }
    let changed = move |mut kitchen: Kitchen| {
        match price {
            Some(price) => kitchen.prices.insert(id, price),
            None => kitchen.prices.remove(&id),
        };
        kitchen.check().map(|()| kitchen)
    };
    change(state, changed).await
}

async fn change(state: &State, change: impl FnOnce(Kitchen) -> Result<Kitchen, InputErrors> + Send + 'static) -> Result<Kitchen, Failure> {
    let household = state.household.clone();
    let kept = on_disk(&state.db, move |db| {
        let changed = cerealis_store::kitchen::update(db, change)?;
        household.renew(db)?;
        Ok(changed)
    });
    kept.await?.map_err(Failure::Input)
}
