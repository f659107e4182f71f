//! The API. Handlers are thin: they read the request, ask the store or the core, and answer.

pub mod body;
pub mod compute;
pub mod events;
pub mod export;
pub mod history;
pub mod laser;
pub mod once;
pub mod pairing;
pub mod projects;
pub mod scan;
pub mod system;

use axum::Router;
use utoipa::OpenApi;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;

use crate::app::App;
use crate::extract::Path;

#[derive(OpenApi)]
#[openapi(
    info(
        title = "Jig Fit",
        description = "Projects, plans and calculators. Errors are application/problem+json (RFC 9457)."
    ),
    components(schemas(crate::problem::Body))
)]
struct Description;

fn open_router() -> OpenApiRouter<App> {
    OpenApiRouter::with_openapi(Description::openapi())
        .routes(routes!(system::health))
        .routes(routes!(projects::list, projects::create))
        .routes(routes!(projects::import))
        .routes(routes!(projects::open_demo))
        .routes(routes!(projects::get, projects::edit, projects::delete))
        .routes(routes!(projects::duplicate))
        .routes(routes!(projects::rescue))
        .routes(routes!(projects::deleted))
        .routes(routes!(projects::undelete))
        .routes(routes!(projects::preview))
        .routes(routes!(history::undo))
        .routes(routes!(history::redo))
        .routes(routes!(history::versions, history::name))
        .routes(routes!(history::version, history::forget))
        .routes(routes!(history::restore))
        .routes(routes!(events::events))
        .routes(routes!(export::export))
        .routes(routes!(export::raw))
        .routes(routes!(scan::scan))
        .routes(routes!(scan::readings))
        .routes(routes!(laser::message))
        .routes(routes!(laser::press))
        .routes(routes!(pairing::state, pairing::open, pairing::close))
        .routes(routes!(pairing::devices))
        .routes(routes!(pairing::revoke))
        .routes(routes!(compute::compute))
}

/// The OpenAPI document.
pub fn document() -> utoipa::openapi::OpenApi {
    open_router().into_openapi()
}

/// All routes of the API.
pub fn router(app: App) -> Router {
    let (router, document) = open_router().split_for_parts();
    let document = std::sync::Arc::new(document);
    router
        .route(
            "/api/openapi.json",
            axum::routing::get(move || {
                let document = document.clone();
                async move { axum::Json((*document).clone()) }
            }),
        )
        // A project that was called "Import" before identifiers stepped aside.
        .route(
            "/api/projects/import",
            axum::routing::get(|state| projects::get(state, Path("import".into())))
                .patch(|state, headers, body| {
                    projects::edit(state, Path("import".into()), headers, body)
                })
                .delete(|state| projects::delete(state, Path("import".into()))),
        )
        .route("/pair/{code}", axum::routing::get(pairing::pair))
        .method_not_allowed_fallback(system::wrong_method)
        .with_state(app)
}
