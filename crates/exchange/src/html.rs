//! A page that holds a recipe as JSON-LD.

use scraper::{Html, Selector};

use crate::jsonld;

/// Whether a text is a page rather than a recipe in words.
pub fn is_page(text: &str) -> bool {
    let start = text.get(..text.floor_char_boundary(2000)).unwrap_or(text).to_ascii_lowercase();
    start.contains("<html") || start.contains("<!doctype html") || text.contains("application/ld+json")
}

/// The first recipe of a page, in words.
pub fn recipe_in(page: &str) -> Option<String> {
    let scripts = Selector::parse("script[type='application/ld+json']").ok()?;
    let page = Html::parse_document(page);
    page.select(&scripts).find_map(|script| {
        let text: String = script.text().collect();
        let value: serde_json::Value = serde_json::from_str(text.trim()).ok()?;
        jsonld::recipe_in(&value).map(jsonld::words)
    })
}

/// Text without the tags and entities that many pages leave in it.
pub fn plain(text: &str) -> String {
    if !text.contains(['<', '&']) {
        return text.to_owned();
    }
    // A paragraph's end is a line's end.
    let broken = ["</p>", "<br>", "<br/>", "<br />", "</li>"].iter().fold(text.to_owned(), |t, tag| t.replace(tag, &format!("{tag}\n")));
    Html::parse_fragment(&broken).root_element().text().collect()
}
