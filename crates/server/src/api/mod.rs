//! The API. Handlers are thin: they read the request, ask the store or the core, and answer.

pub mod body;
pub mod compute;
pub mod curves;
pub mod events;
pub mod export;
pub mod furniture;
pub mod history;
pub mod laser;
mod lines;
pub mod once;
pub mod pairing;
pub mod photo;
pub mod preview;
pub mod projects;
pub mod scan;
pub mod sheets;
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
        .routes(routes!(preview::preview))
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
        .routes(routes!(furniture::kinds))
        .routes(routes!(furniture::suggest))
        .routes(routes!(furniture::starts))
        .routes(routes!(furniture::variants))
        .routes(routes!(furniture::sweep))
        .routes(routes!(furniture::handles))
        .routes(routes!(furniture::remedies))
        .routes(routes!(curves::curves))
        .routes(routes!(photo::read))
        .routes(routes!(photo::kept))
        .routes(routes!(sheets::search))
        .routes(routes!(compute::compute))
}

/// The OpenAPI document.
pub fn document() -> utoipa::openapi::OpenApi {
    let mut document = open_router().into_openapi();
    complete(&mut document);
    document
}

/// What is true of every address is said once here: refusals are problems, and what the guard, the store
/// and the clock may answer.
fn complete(document: &mut utoipa::openapi::OpenApi) {
    use utoipa::openapi::{Content, RefOr, Response};
    const ALL: [(&str, &str); 6] = [
        ("400", "An address that cannot be read"),
        ("401", "From a device that is not paired"),
        ("403", "From another page or address"),
        ("500", "A fault of the program, or a damaged data file"),
        ("503", "The data file is in use"),
        ("504", "It took longer than a minute"),
    ];
    const WRITES: [(&str, &str); 3] = [
        ("413", "Too large"),
        ("415", "Not a media type that this address takes"),
        ("507", "The data file cannot be written or is gone"),
    ];
    let problem = || {
        RefOr::T(Content::new(Some(utoipa::openapi::Ref::from_schema_name(
            "Body",
        ))))
    };
    for (path, item) in &mut document.paths.paths {
        let reads = [&mut item.get].into_iter().flatten().map(|o| (false, o));
        let writes = [&mut item.post, &mut item.patch, &mut item.delete];
        let writes = writes.into_iter().flatten().map(|o| (true, o));
        for (write, operation) in reads.chain(writes) {
            let all = &mut operation.responses.responses;
            let own: &[_] = if write { &WRITES } else { &[] };
            for (status, words) in ALL.iter().chain(own).filter(|_| path.starts_with("/api/")) {
                all.entry((*status).to_string()).or_insert_with(|| {
                    let mut response = Response::new(*words);
                    response
                        .content
                        .insert("application/problem+json".into(), problem());
                    RefOr::T(response)
                });
            }
            for (_, response) in all.iter_mut().filter(|(s, _)| s.starts_with(['4', '5'])) {
                if let RefOr::T(response) = response {
                    response.content.clear();
                    response
                        .content
                        .insert("application/problem+json".into(), problem());
                }
            }
        }
    }
}

/// All routes of the API.
pub fn router(app: App) -> Router {
    let (router, _) = open_router().split_for_parts();
    let document = std::sync::Arc::new(document());
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
