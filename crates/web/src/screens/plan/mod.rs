//! The plan: the ways to have the bread when it is wanted, one of them whole; or why there is none.

mod asked;
mod by_hand;
mod compromise;
mod fitted;
mod hours;
mod house;
mod jar;
mod paper;
mod query;
mod sheet;
mod shown;
mod together;
mod vary;
mod water;
mod whole;

use actix_web::web::ServiceConfig;

pub fn routes(app: &mut ServiceConfig) {
    by_hand::routes(app);
    shown::routes(app);
    hours::routes(app);
    water::routes(app);
    fitted::routes(app);
    paper::routes(app);
    together::routes(app);
}
