//! The plan: the ways to have the bread when it is wanted, one of them whole; or why there is none.

mod by_hand;
mod fitted;
mod hours;
mod sheet;
mod together;
mod water;

use actix_web::web::ServiceConfig;

pub fn routes(app: &mut ServiceConfig) {
    by_hand::routes(app);
    hours::routes(app);
    water::routes(app);
    fitted::routes(app);
    together::routes(app);
}
