//! Letting a phone of the local network in, and putting it out again.

use axum::Json;
use axum::extract::State;
use axum::http::{HeaderMap, StatusCode, header};
use axum::response::{IntoResponse, Response};
use jigfit_core::problem::Problem;
use jigfit_store::Device;
use qrcode::QrCode;
use qrcode::render::svg;
use serde::Serialize;
use utoipa::ToSchema;

use crate::app::App;
use crate::extract::Path;
use crate::lan::set_cookie;
use crate::problem::{ApiError, Body as ProblemBody};

/// What is open to the local network.
#[derive(Serialize, ToSchema)]
pub struct LanState {
    /// Addresses at which devices of the local network find the program.
    addresses: Vec<String>,
    /// Why there are none although they are wanted.
    trouble: Option<String>,
    /// What to say beside the switch.
    caution: &'static str,
    /// A code for one device, and how to get it into the phone.
    invitation: Option<Invitation>,
}

/// A code for one device.
#[derive(Serialize, ToSchema)]
pub struct Invitation {
    /// The address to open on the phone; it holds the code.
    address: String,
    /// The same as a picture (SVG).
    picture: String,
    /// For so long, seconds.
    seconds: u64,
}

const CAUTION: &str = "What goes over the network is not encrypted: use this in your own network, not in a camp site's or a café's.";

/// A paired device.
#[derive(Serialize, ToSchema)]
pub struct Paired {
    /// Identifier.
    id: String,
    /// What it is called.
    name: String,
    /// When it was paired.
    at: String,
    /// When it was last seen, to the day.
    seen: String,
}

impl From<Device> for Paired {
    fn from(d: Device) -> Self {
        Paired {
            id: d.id,
            name: d.name,
            at: d.at,
            seen: d.seen,
        }
    }
}

fn lan_state(app: &App, invite: bool) -> LanState {
    let (doors, trouble) = app.lan.doors();
    let invitation = doors.first().filter(|_| invite).map(|door| {
        let (code, good) = app.lan.code();
        let address = format!("http://{door}/pair/{code}");
        let picture = QrCode::new(address.as_bytes()).map(|qr| {
            qr.render::<svg::Color>()
                .min_dimensions(220, 220)
                .quiet_zone(true)
                .build()
        });
        Invitation {
            address,
            picture: picture.unwrap_or_default(),
            seconds: good.as_secs(),
        }
    });
    LanState {
        addresses: doors.iter().map(|d| format!("http://{d}")).collect(),
        trouble,
        caution: CAUTION,
        invitation,
    }
}

/// What is open to the local network.
#[utoipa::path(get, path = "/api/lan", responses((status = 200, body = LanState)))]
pub async fn state(State(app): State<App>) -> Json<LanState> {
    Json(lan_state(&app, false))
}

/// Open the program to the local network and make a code for one device.
#[utoipa::path(post, path = "/api/lan", responses((status = 200, body = LanState)))]
pub async fn open(State(app): State<App>) -> Json<LanState> {
    app.lan.wanted.send_replace(true);
    // The task that listens answers at once; the doors are there when it has.
    for _ in 0..50 {
        let (doors, trouble) = app.lan.doors();
        if !doors.is_empty() || trouble.is_some() {
            break;
        }
        tokio::time::sleep(std::time::Duration::from_millis(20)).await;
    }
    Json(lan_state(&app, true))
}

/// Close the program to the local network.
#[utoipa::path(delete, path = "/api/lan", responses((status = 200, body = LanState)))]
pub async fn close(State(app): State<App>) -> Json<LanState> {
    app.lan.wanted.send_replace(false);
    app.lan.opened(vec![], None);
    Json(lan_state(&app, false))
}

/// The paired devices.
#[utoipa::path(get, path = "/api/devices", responses((status = 200, body = Vec<Paired>)))]
pub async fn devices(State(app): State<App>) -> Result<Json<Vec<Paired>>, ApiError> {
    let all = app.with(|s| s.devices()).await?;
    Ok(Json(all.into_iter().map(Paired::from).collect()))
}

/// Put a device out: its token is worth nothing any more.
#[utoipa::path(
    delete, path = "/api/devices/{id}", params(("id" = String, Path)),
    responses((status = 204), (status = 404, body = ProblemBody))
)]
pub async fn revoke(
    State(app): State<App>,
    Path(id): Path<String>,
) -> Result<StatusCode, ApiError> {
    app.with(move |s| s.revoke(&id)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Opened on the phone: gives it a token and leads to the projects.
pub async fn pair(
    State(app): State<App>,
    Path(code): Path<String>,
    headers: HeaderMap,
) -> Result<Response, ApiError> {
    let agent = headers.get(header::USER_AGENT);
    let name = called(agent.and_then(|v| v.to_str().ok()).unwrap_or(""));
    let Some(token) = app.pair(&code, name).await? else {
        return Err(ApiError::new(
            StatusCode::UNAUTHORIZED,
            Problem::new(
                "not-paired",
                "Not paired",
                "",
                "This code is wrong, used or too old: make a new one on the computer.",
            ),
        ));
    };
    Ok((
        StatusCode::SEE_OTHER,
        [
            (header::SET_COOKIE, set_cookie(&token)),
            (header::LOCATION, "/".into()),
            (header::CACHE_CONTROL, "no-store".into()),
        ],
    )
        .into_response())
}

/// A device by what its browser says of itself.
fn called(agent: &str) -> &'static str {
    let has = |word: &str| agent.contains(word);
    match () {
        () if has("iPhone") || (has("Android") && has("Mobile")) => "phone",
        () if has("iPad") || has("Android") => "tablet",
        () if has("Mozilla") => "computer",
        () => "device",
    }
}
