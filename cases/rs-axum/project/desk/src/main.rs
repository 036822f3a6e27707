//! The desk at which parcels are asked for.
use axum::{extract::Host, http::StatusCode, response::IntoResponse, routing::{get, MethodFilter, on}, Router};
use std::net::SocketAddr;

async fn sign(Host(host): Host) -> String {
    format!("the desk of {host}")
}

async fn shut() -> impl IntoResponse {
    StatusCode::GONE
}

fn filter() -> MethodFilter {
    MethodFilter::GET | MethodFilter::HEAD
}

fn hidden() -> MethodFilter {
    MethodFilter::from_bits_truncate(0)
}

fn desk() -> Router {
    Router::new().route("/", get(sign)).route("/shut", on(filter(), shut)).route("/hidden", on(hidden(), shut))
}

#[tokio::main(flavor = "current_thread")]
async fn main() {
    let address = SocketAddr::from(([127, 0, 0, 1], 0));
    let server = axum::Server::bind(&address).serve(desk().into_make_service());
    println!("at {}", server.local_addr());
    let other = axum::Server::bind(&address).serve(desk().into_make_service_with_connect_info::<SocketAddr>());
    println!("and at {}", other.local_addr());
}
