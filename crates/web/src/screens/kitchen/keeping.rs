//! Keeping the kitchen safe: the part of the page where a file is taken in.

use std::sync::Arc;

use actix_multipart::form::{MultipartForm, MultipartFormConfig, bytes::Bytes, text::Text};
use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get},
};
use cerealis_core::kitchen::KitchenBody;
use cerealis_store::{StoreError, archive::Brought};

use super::{Done, render};
use crate::{
    State,
    desk::keeping::bring,
    edge::{ARCHIVE_LIMIT, Failure, Fields, PageFailure, too_large},
    screens::see_other,
};

/// Most things named that stay as they are.
const NAMED: usize = 20;

/// What a file brings.
pub enum Brings {
    /// In a sentence; what stays as it is and why; how many more of these.
    Told { words: String, left: Vec<(String, String)>, more: usize },
    /// Why it is not taken.
    Refused(String),
}

impl Brings {
    fn told(brought: &Brought, dry: bool) -> Self {
        let left = brought.left.iter().take(NAMED).map(|l| (l.named(), l.why.clone())).collect();
        Self::Told { words: brought.told(dry), left, more: brought.left.len().saturating_sub(NAMED) }
    }
}

#[derive(MultipartForm)]
struct Chosen {
    archive: Option<Bytes>,
    dry: Option<Text<bool>>,
}

pub fn routes(app: &mut ServiceConfig) {
    // Besides the file there are a few words.
    const BESIDE: usize = 64 * 1024;
    let form = MultipartFormConfig::default()
        .total_limit(ARCHIVE_LIMIT + BESIDE)
        .memory_limit(ARCHIVE_LIMIT + BESIDE)
        .error_handler(|e, _| PageFailure(refused(&e)).into());
    let back = || async { see_other("/kitchen#keeping") };
    app.service(web::resource("/kitchen/import").app_data(form).route(web::post().to(take_in)).route(get().to(back)));
}

/// Why a form with a file could not be read.
fn refused(error: &actix_multipart::MultipartError) -> Failure {
    use actix_web::ResponseError;
    if error.status_code() == StatusCode::PAYLOAD_TOO_LARGE {
        too_large(ARCHIVE_LIMIT)
    } else {
        Failure::wrong(format!("The file did not arrive whole: {error}."))
    }
}

async fn take_in(state: Data<State>, MultipartForm(chosen): MultipartForm<Chosen>) -> Result<HttpResponse, PageFailure> {
    let dry = chosen.dry.is_none_or(|d| d.0);
    let text = chosen.archive.map(|a| a.data).filter(|d| !d.is_empty());
    let text = text.ok_or("Choose a file first.").and_then(|d| {
        std::str::from_utf8(&d)
            .map(Arc::from)
            .map_err(|_| "That is no archive of Cerealis. A copy is restored from the command line, as it says beside.")
    });
    let brings = match text {
        Err(why) => Brings::Refused(why.to_owned()),
        Ok(text) => match bring(&state, text, dry).await {
            Ok(brought) => Brings::told(&brought, dry),
            Err(Failure::Store(StoreError::Foreign)) => {
                Brings::Refused("That is no archive of Cerealis. A recipe is pasted on the page Formula.".to_owned())
            }
            Err(e @ (Failure::Input(_) | Failure::Store(StoreError::Newer | StoreError::Conflict(_)))) => Brings::Refused(e.to_string()),
            Err(other) => return Err(PageFailure(other)),
        },
    };
    let status = if matches!(brings, Brings::Refused(_)) { StatusCode::UNPROCESSABLE_ENTITY } else { StatusCode::OK };
    let kitchen = crate::screens::kitchen(&state).await?;
    render(&state, Fields::of(&KitchenBody::from(&kitchen), kitchen.units), Done { saved: false, brings: Some(brings) }, status).await
}
