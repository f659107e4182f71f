//! The web application, embedded in the program.

use axum::http::{StatusCode, Uri, header};
use axum::response::{IntoResponse, Response};
use rust_embed::RustEmbed;

use crate::problem::ApiError;

#[derive(RustEmbed)]
#[folder = "../../web/dist"]
struct Web;

/// A file of the web application; every other path is the application itself, which has its own
/// addresses. Under `/api` nothing is made up.
pub async fn serve(uri: Uri) -> Response {
    let path = uri.path().trim_start_matches('/');
    if path.starts_with("api/") {
        return ApiError::not_found(format!("There is nothing at /{path}.")).into_response();
    }
    if let Some(file) = Web::get(path).filter(|_| path != "index.html") {
        let mime = mime_guess::from_path(path).first_or_octet_stream();
        // Built files carry a hash in their name.
        let cache = if path.starts_with("assets/") {
            "public, max-age=31536000, immutable"
        } else {
            "no-cache"
        };
        return (
            [
                (header::CONTENT_TYPE, mime.to_string()),
                (header::CACHE_CONTROL, cache.to_string()),
            ],
            file.data,
        )
            .into_response();
    }
    if path
        .rsplit('/')
        .next()
        .is_some_and(|last| last.contains('.'))
        && path != "index.html"
    {
        return ApiError::not_found(format!("There is no file /{path}.")).into_response();
    }
    match Web::get("index.html") {
        Some(page) => (
            [
                (header::CONTENT_TYPE, "text/html; charset=utf-8"),
                (header::CACHE_CONTROL, "no-cache"),
            ],
            page.data,
        )
            .into_response(),
        None => (
            StatusCode::SERVICE_UNAVAILABLE,
            "The web application is not part of this build: run make build.",
        )
            .into_response(),
    }
}
