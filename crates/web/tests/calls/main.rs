//! The program from outside: calls as the contract describes them, pages as a browser sends them.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, clippy::indexing_slicing, reason = "tests")]

mod amount;
mod anew;
mod bakes;
mod contract;
mod day;
mod doors;
mod evening;
mod exchange;
mod house;
mod household;
mod keeping;
mod kneading;
mod many;
mod oven;
mod pages;
mod pantry;
mod planning;
mod refusals;
mod sheet;
mod shown;
mod units;
mod versions;

use actix_web::{
    body::MessageBody,
    dev::{Service, ServiceResponse},
    http::Method,
    test::{self, TestRequest},
};
use cerealis_core::Tables;
use cerealis_store::Database;
use cerealis_web::{
    State,
    edge::{Clock, Household},
};
use serde_json::Value;

struct Kitchen {
    state: State,
    _folder: tempfile::TempDir,
}

/// A fresh household at a fixed moment.
fn kitchen() -> Kitchen {
    let folder = tempfile::tempdir().unwrap();
    let db = Database::open(&folder.path().join("household.db")).unwrap();
    let clock = Clock::starting("2026-11-06T16:40:00Z".parse().unwrap(), 0);
    let household = Household::open(Tables::built_in().unwrap(), &db).unwrap();
    Kitchen { state: State::new(household, db, clock), _folder: folder }
}

struct Answer {
    status: u16,
    text: String,
    kind: String,
    headers: Vec<(String, String)>,
}

impl Answer {
    fn json(&self) -> Value {
        serde_json::from_str(&self.text).unwrap_or_else(|e| panic!("{e}: {}", self.text))
    }
    fn header(&self, name: &str) -> Option<&str> {
        self.headers.iter().find(|(n, _)| n.eq_ignore_ascii_case(name)).map(|(_, v)| v.as_str())
    }
    /// The id of the bake the browser is sent to.
    fn bake(&self) -> String {
        let to = self.header("location").unwrap_or_default();
        let id = to.trim_start_matches("/bakeday/").split('?').next().unwrap_or_default();
        assert!(to.starts_with("/bakeday/") && !id.is_empty(), "{to}: {}", self.text);
        id.to_owned()
    }
    /// The hidden fields of the form that is posted to a path.
    fn fields_of(&self, action: &str) -> Vec<(String, String)> {
        let marks = [("&#34;", "\""), ("&#39;", "'"), ("&#60;", "<"), ("&#62;", ">"), ("&#38;", "&")];
        let plain = |text: &str| marks.iter().fold(text.to_owned(), |t, (a, b)| t.replace(a, b));
        let form = self.text.split(&format!("action=\"{action}\"")).nth(1).and_then(|rest| rest.split("</form>").next());
        let inputs = form.unwrap_or_default().split("<input type=\"hidden\" name=\"").skip(1);
        inputs
            .filter_map(|i| {
                let (name, rest) = i.split_once("\" value=\"")?;
                Some((plain(name), plain(rest.split('"').next()?)))
            })
            .collect()
    }
    fn pointers(&self) -> Vec<String> {
        self.json()["errors"].as_array().into_iter().flatten().map(|e| e["pointer"].as_str().unwrap().to_owned()).collect()
    }
}

/// A page as a browser lays it out: white space between words is one space, however the template is broken into lines. What is
/// typed, in fields and their values, stays as it is.
fn laid_out(html: &str) -> String {
    let mut out = String::with_capacity(html.len());
    let (mut in_tag, mut in_value, mut in_field) = (false, false, false);
    for c in html.chars() {
        match c {
            '"' if in_tag => in_value = !in_value,
            '<' if !in_value => in_tag = true,
            '>' if !in_value => {
                in_tag = false;
                let tag = out.rsplit('<').next().unwrap_or_default();
                in_field = tag.starts_with("textarea");
            }
            _ => {}
        }
        if c.is_whitespace() && c != '\u{a0}' && c != '\u{2009}' && !in_value && !in_field {
            if !out.ends_with(' ') {
                out.push(' ');
            }
        } else {
            out.push(c);
        }
    }
    out
}

async fn answer<B: MessageBody>(response: ServiceResponse<B>) -> Answer {
    let headers: Vec<(String, String)> =
        response.headers().iter().map(|(n, v)| (n.to_string(), v.to_str().unwrap_or_default().to_owned())).collect();
    let kind = headers.iter().find(|(n, _)| n == "content-type").map_or_else(String::new, |(_, v)| v.clone());
    let status = response.status().as_u16();
    let body = test::read_body(response).await;
    let text = String::from_utf8_lossy(&body);
    let text = if kind.starts_with("text/html") { laid_out(&text) } else { text.into_owned() };
    Answer { status, text, kind, headers }
}

async fn call(k: &Kitchen, request: TestRequest) -> Answer {
    let app = test::init_service(cerealis_web::app(k.state.clone())).await;
    match app.call(request.to_request()).await {
        Ok(response) => answer(response).await,
        Err(e) => {
            let response = e.error_response();
            let (status, kind) = (
                response.status().as_u16(),
                response.headers().get("content-type").map(|v| v.to_str().unwrap().to_owned()).unwrap_or_default(),
            );
            let body = actix_web::body::to_bytes(response.into_body()).await.unwrap_or_else(|_| panic!("no body"));
            let text = String::from_utf8_lossy(&body);
            let text = if kind.starts_with("text/html") { laid_out(&text) } else { text.into_owned() };
            Answer { status, text, kind, headers: Vec::new() }
        }
    }
}

async fn get(k: &Kitchen, path: &str) -> Answer {
    call(k, TestRequest::get().uri(path)).await
}
async fn send(k: &Kitchen, method: Method, path: &str, json: &Value) -> Answer {
    call(
        k,
        TestRequest::default().method(method).uri(path).insert_header(("content-type", "application/json")).set_payload(json.to_string()),
    )
    .await
}
async fn post(k: &Kitchen, path: &str, json: &Value) -> Answer {
    send(k, Method::POST, path, json).await
}
async fn put(k: &Kitchen, path: &str, json: &Value) -> Answer {
    send(k, Method::PUT, path, json).await
}
async fn raw(k: &Kitchen, path: &str, kind: &str, body: impl Into<actix_web::web::Bytes>) -> Answer {
    call(k, TestRequest::post().uri(path).insert_header(("content-type", kind.to_owned())).set_payload(body)).await
}
async fn form(k: &Kitchen, path: &str, fields: &[(&str, &str)]) -> Answer {
    let enc = |t: &str| {
        t.bytes().map(|b| if b.is_ascii_alphanumeric() { char::from(b).to_string() } else { format!("%{b:02X}") }).collect::<String>()
    };
    let body = fields.iter().map(|(n, v)| format!("{}={}", enc(n), enc(v))).collect::<Vec<_>>().join("&");
    raw(k, path, "application/x-www-form-urlencoded", body).await
}
/// Uses the plan a page shows, some fields changed.
async fn use_shown(k: &Kitchen, page: &Answer, changed: &[(&str, &str)]) -> Answer {
    let mut fields = page.fields_of("/plan/use");
    assert!(fields.iter().any(|f| f.0 == "hash"), "no plan to use: {}", page.text);
    for (name, value) in changed {
        fields.retain(|f| f.0 != *name);
        fields.push(((*name).to_owned(), (*value).to_owned()));
    }
    let pairs: Vec<(&str, &str)> = fields.iter().map(|(n, v)| (n.as_str(), v.as_str())).collect();
    form(k, "/plan/use", &pairs).await
}
async fn with_headers(k: &Kitchen, method: Method, path: &str, headers: &[(&str, &str)]) -> Answer {
    let request = headers
        .iter()
        .fold(TestRequest::default().method(method).uri(path), |r, (n, v)| r.insert_header(((*n).to_owned(), (*v).to_owned())));
    call(k, request).await
}

fn lean() -> Value {
    serde_json::json!({ "name": "Harbour loaf", "lines": [
        { "ingredient": "wheat-bread", "grams": 500 }, { "ingredient": "water", "grams": 340 }, { "ingredient": "salt-fine", "grams": 12 }, { "ingredient": "yeast-instant", "grams": 4 }
    ] })
}
