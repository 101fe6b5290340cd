//! Which bread? Asked by a page that needs a formula and was called without one.

use actix_web::{HttpResponse, http::StatusCode};
use askama::Template;

use super::{Choosing, Chrome, formulas_kept, page};
use crate::{State, edge::PageFailure};

#[derive(Template)]
#[template(path = "choose/page.html")]
struct ChoosePage {
    chrome: Chrome,
    title: &'static str,
    words: &'static str,
    to: String,
    kept: Choosing,
}

/// The formulas kept, each leading to the page `to`.
pub async fn choose(
    state: &State,
    chrome: Chrome,
    title: &'static str,
    words: &'static str,
    to: &str,
) -> Result<HttpResponse, PageFailure> {
    page(
        &ChoosePage {
            chrome,
            title,
            words,
            to: format!("{to}{}", if to.contains('?') { '&' } else { '?' }),
            kept: formulas_kept(state).await?,
        },
        StatusCode::OK,
    )
}
