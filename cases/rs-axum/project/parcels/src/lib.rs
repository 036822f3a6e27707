//! The parcels of a village's post room, over HTTP.
use axum::body::{boxed, BoxBody};
use axum::body::{Empty, Full};
use axum::extract::BodyStream;
use axum::extract::RawBody;
use axum::extract::TypedHeader;
use axum::headers::UserAgent;
use axum::{
    body::{Body, Bytes},
    extract::{Extension, FromRequest, Query},
    http::{Request, StatusCode},
    middleware::Next,
    response::{IntoResponse, Response},
    routing::{get, post},
    Router,
};

#[derive(Clone)]
pub struct Scale {
    pub grams: u32,
}

/// Middleware that stamps what goes out.
pub async fn stamp<B>(request: Request<B>, next: Next<B>) -> Response {
    let mut answer = next.run(request).await;
    answer.headers_mut().insert("x-stamp", "village".parse().unwrap());
    answer
}

/// A parcel that is weighed on its way in.
pub struct Weighed(pub Bytes);

#[axum::async_trait]
impl<S, B> FromRequest<S, B> for Weighed
where
    Bytes: FromRequest<S, B>,
    B: Send + 'static,
    S: Send + Sync,
{
    type Rejection = StatusCode;

    async fn from_request(request: Request<B>, state: &S) -> Result<Self, Self::Rejection> {
        let bytes = Bytes::from_request(request, state).await.map_err(|_| StatusCode::BAD_REQUEST)?;
        Ok(Self(bytes))
    }
}

pub async fn weigh(Extension(scale): Extension<Scale>, parcel: Weighed) -> String {
    format!("{} of {}", parcel.0.len(), scale.grams)
}

/// What a parcel is sent away with.
pub struct Ticket(pub u32);

pub async fn ticket() -> impl IntoResponse {
    (Extension(Ticket(7)), "take it to the counter")
}

pub async fn raw(RawBody(_body): RawBody) -> StatusCode {
    StatusCode::ACCEPTED
}

#[derive(serde::Deserialize)]
pub struct Sought {
    pub name: String,
}

pub async fn sought(sought: Option<Query<Sought>>) -> String {
    sought.map(|it| it.0.name).unwrap_or_default()
}

pub async fn streamed(_stream: BodyStream) -> StatusCode {
    StatusCode::ACCEPTED
}

pub async fn visitor(TypedHeader(agent): TypedHeader<UserAgent>) -> String {
    agent.to_string()
}

pub fn nothing() -> Response<BoxBody> {
    Response::builder().status(204).body(boxed(Empty::new())).unwrap()
}

pub fn label(text: &'static str) -> Response<BoxBody> {
    Response::builder().body(boxed(Full::from(text))).unwrap()
}

pub fn routes() -> Router {
    Router::new()
        .route("/weigh", post(weigh))
        .route("/ticket", get(ticket))
        .route("/sought", get(sought))
        .route("/raw", post(raw))
        .route("/streamed", post(streamed))
        .route("/visitor", get(visitor))
        .layer(axum::middleware::from_fn(stamp::<Body>))
}
