use axum::{body::Body, http::{Request, StatusCode}, Router};
use tower::ServiceExt;

async fn ask(routes: Router, path: &str) -> StatusCode {
    routes.oneshot(Request::builder().uri(path).body(Body::empty()).unwrap()).await.unwrap().status()
}

async fn header(routes: Router, path: &str, name: &str) -> String {
    let answer = routes.oneshot(Request::builder().uri(path).body(Body::empty()).unwrap()).await.unwrap();
    answer.headers().get(name).map(|it| it.to_str().unwrap().to_string()).unwrap_or_default()
}

#[tokio::test]
async fn letters_have_pages() {
    assert_eq!(ask(post::plain(), "/letters?page=3").await, StatusCode::OK);
}

#[tokio::test]
async fn letters_without_a_page_are_refused() {
    assert_eq!(ask(post::plain(), "/letters").await, StatusCode::BAD_REQUEST);
}

#[tokio::test]
async fn a_house_has_a_number() {
    assert_eq!(ask(post::houses(), "/house/7").await, StatusCode::OK);
}

#[tokio::test]
async fn a_house_without_a_number_is_refused() {
    assert_eq!(ask(post::houses(), "/house/corner").await, StatusCode::BAD_REQUEST);
}

#[tokio::test]
async fn a_street_may_have_slashes() {
    assert_eq!(ask(post::streets(), "/street/mill/lane").await, StatusCode::OK);
}

#[tokio::test]
async fn a_round_is_driven() {
    assert_eq!(ask(post::rounds(), "/round/3").await, StatusCode::OK);
}

#[tokio::test]
async fn a_pair_of_houses() {
    assert_eq!(ask(post::pairs(), "/from/3/to/4").await, StatusCode::OK);
}

#[tokio::test]
async fn a_parish_looks_for_what_is_lost() {
    assert_eq!(ask(post::parish(), "/village/none").await, StatusCode::NOT_FOUND);
}

#[tokio::test]
async fn letters_are_json() {
    assert_eq!(header(post::plain(), "/letters?page=1", "content-type").await, "application/json");
}

#[tokio::test]
async fn what_is_lost_in_the_village_is_lost_in_the_parish() {
    assert_eq!(header(post::parish(), "/village/none", "content-length").await, "16");
}

#[tokio::test]
async fn a_page_that_is_no_number_is_told() {
    let told = "Failed to deserialize query string: invalid digit found in string";
    assert_eq!(header(post::plain(), "/letters?page=x", "content-length").await, told.len().to_string());
}

#[test]
fn the_last_house_has_post() {
    assert_eq!(post::last(9), 9);
}
