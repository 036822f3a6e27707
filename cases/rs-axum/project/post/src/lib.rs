//! The rounds of the village's post, as routes.
use axum::{
    extract::{Form, Path, Query},
    http::StatusCode,
    response::{IntoResponse, Json},
    routing::{get, post},
    Router,
};
use serde::Deserialize;
use serde_json::{json, Value};

#[derive(Deserialize)]
pub struct Page {
    pub page: u32,
    pub street: Option<String>,
}

#[derive(Deserialize)]
pub struct Note {
    pub house: u32,
}

async fn house(Path(number): Path<u32>) -> String {
    format!("house {number}")
}

async fn street(Path(name): Path<String>) -> String {
    name
}

async fn letters(Query(page): Query<Page>) -> Json<Value> {
    Json(json!({ "page": page.page, "street": page.street }))
}

async fn note(Form(note): Form<Note>) -> String {
    format!("left at {}", note.house)
}

async fn maybe(number: Option<Path<u32>>) -> String {
    match number {
        Some(Path(number)) => format!("round {number}"),
        None => "no round".to_string(),
    }
}

async fn pair(Path((from, to)): Path<(u32, u32)>) -> String {
    format!("{from} to {to}")
}

async fn lost() -> impl IntoResponse {
    (StatusCode::NOT_FOUND, "lost in the post")
}

/// Routes with nothing in their path.
pub fn plain() -> Router {
    Router::new().route("/letters", get(letters)).route("/note", post(note)).fallback(lost)
}

pub fn houses() -> Router {
    Router::new().route("/house/:number", get(house))
}

pub fn streets() -> Router {
    Router::new().route("/street/*name", get(street))
}

pub fn rounds() -> Router {
    Router::new().route("/round/:number", get(maybe)).route("/round", get(maybe))
}

pub fn pairs() -> Router {
    Router::new().route("/from/:from/to/:to", get(pair))
}

/// A village within a parish, which has a fallback of its own.
pub fn parish() -> Router {
    Router::new().nest_service("/village", Router::new().route("/letters", get(letters))).fallback(lost)
}

/// A Router whose round is wrong by one, so that the last house has no post.
pub fn last(houses: u32) -> u32 {
    let post = 1;
    houses - 1
}
