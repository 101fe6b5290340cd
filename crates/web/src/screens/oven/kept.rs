//! What was told of a bread on the oven's page, kept with its formula from then on.

use actix_web::{
    HttpResponse,
    web::{self, Data, Path, ServiceConfig, post},
};
use cerealis_core::formula::FormulaDraft;

use super::{Opened, asked::Query};
use crate::{
    State, desk,
    edge::{Form, PageFailure},
    screens::see_other,
};

pub(super) fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/formula/{id}/stands").route(post().to(keep)));
}

/// Keeps it, where it is a bake at all, and shows the oven again.
async fn keep(state: Data<State>, id: Path<String>, Form(form): Form<Query>) -> Result<HttpResponse, PageFailure> {
    let q = Query { formula: id.into_inner(), ..form };
    let opened = match Opened::of(&q, "/oven", &state).await? {
        Ok(opened) => opened,
        Err(choose) => return Ok(choose),
    };
    if opened.asked.bake.is_none() {
        return Ok(see_other(&q.address("")));
    }
    let mut body = opened.formula.body();
    body.keep_bake(&opened.asked.told);
    desk::formulas::keep(&state, q.formula.clone(), FormulaDraft::from(body)).await?;
    Ok(see_other(&format!("/oven?formula={}", q.formula)))
}
