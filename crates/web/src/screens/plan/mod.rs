//! The plan: the ways to have the bread when it is wanted, one of them whole; or why there is none.

mod asked;
mod by_hand;
mod fitted;
mod hours;
mod query;
mod sheet;
mod shown;
mod together;
mod vary;
mod water;

use actix_web::web::ServiceConfig;

pub fn routes(app: &mut ServiceConfig) {
    by_hand::routes(app);
    shown::routes(app);
    hours::routes(app);
    water::routes(app);
    fitted::routes(app);
    together::routes(app);
}
