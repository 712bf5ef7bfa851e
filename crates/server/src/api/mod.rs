//! The routes, one module per resource, and the OpenAPI document that follows from them.

mod benches;
mod blind;
mod bores;
mod boring;
mod builds;
mod calc;
mod cam;
mod catalog;
mod checks;
mod concessions;
mod crank_check;
mod cylinder_orders;
mod document;
mod edges;
mod events;
mod families;
mod files;
mod fittings;
mod floor;
mod gauge_link;
mod gauge_sessions;
mod gauges;
mod grids;
mod health;
mod inspections;
mod narrowing;
mod noted;
mod orders;
mod own_account;
mod parts;
mod people;
mod pictures;
mod proposals;
mod readings;
mod rods;
mod rules;
mod seals;
mod set_ups;
mod shelf;
mod shop;
mod signatures;
mod signing_in;
mod straightness;
mod tables;
mod target_rows;
mod targets;
mod track_record;
mod trays;
mod trials;
mod washers;
mod work;
use axum::Router;
use axum::extract::{DefaultBodyLimit, Request};
use axum::http::{HeaderName, HeaderValue, header};
use axum::middleware::{Next, from_fn, from_fn_with_state};
use axum::response::{IntoResponse, Response};
use tower_http::catch_panic::CatchPanicLayer;
use tower_http::compression::CompressionLayer;
use tower_http::services::{ServeDir, ServeFile};
use tower_http::set_header::SetResponseHeaderLayer;
use tower_http::timeout::RequestBodyTimeoutLayer;
use tower_http::trace::TraceLayer;
use tower_sessions::cookie::SameSite;
use tower_sessions::cookie::time::Duration;
use tower_sessions::{Expiry, SessionManagerLayer};
use utoipa::OpenApi;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;

use crate::http::problem::{Problem, ProblemBody};
use crate::http::session_store::DatabaseSessions;
use crate::http::{bodies, fair};
use crate::state::{AppState, SESSION_HOURS};

/// Largest body of what is no build: a file of readings, mostly.
const LARGEST_BODY: usize = 4 * 1024 * 1024;
/// How long a request may take until its answer begins; streams of events go on after that.
const ANSWER_WITHIN: std::time::Duration = std::time::Duration::from_secs(30);
/// Bytes of a file that are read at once: a client that takes none of them holds no more.
const CHUNK: usize = 16 * 1024;
/// How long a body may be silent while it arrives.
const SILENT_FOR: std::time::Duration = std::time::Duration::from_secs(10);
/// Everything the pages need comes from here, and nobody frames them.
const CONTENT_POLICY: &str = "default-src 'self'; img-src 'self' data:; object-src 'none'; frame-ancestors 'none'; \
     base-uri 'none'; form-action 'self'";
/// What no page of ours asks a browser for.
const PERMISSIONS: &str = "camera=(), geolocation=(), microphone=(), payment=(), usb=()";
/// Once seen over TLS, a browser comes over TLS only: a year.
const TRANSPORT: &str = "max-age=31536000";

#[derive(OpenApi)]
#[openapi(
    info(title = "Jagged Pin", description = "Measure, judge, keep and sign the bottom end of a race engine."),
    components(schemas(ProblemBody))
)]
struct Document;

fn api() -> OpenApiRouter<AppState> {
    OpenApiRouter::with_openapi(Document::openapi())
        .routes(routes!(health::healthz))
        .routes(routes!(health::readyz))
        .routes(routes!(signing_in::front))
        .routes(routes!(signing_in::sign_in, signing_in::session, signing_in::sign_out))
        .routes(routes!(own_account::look_at_invitation, own_account::take_up_invitation))
        .routes(routes!(own_account::change_password))
        .routes(routes!(own_account::sessions))
        .routes(routes!(own_account::end_session))
        .routes(routes!(people::people, people::add_person))
        .routes(routes!(people::put_person))
        .routes(routes!(people::invite))
        .routes(routes!(people::end_sessions_of))
        .routes(routes!(people::shop_log))
        .routes(routes!(seals::look_at_seals))
        .routes(routes!(floor::floor, builds::open))
        .routes(routes!(builds::shop))
        .routes(routes!(shop::roles))
        .routes(routes!(shop::put_role))
        .routes(routes!(shop::presets, shop::put_presets))
        .routes(routes!(catalog::catalog))
        .routes(routes!(builds::build))
        .routes(routes!(builds::changes))
        .routes(routes!(floor::archive))
        .routes(routes!(floor::remove))
        .routes(routes!(readings::echo))
        .routes(routes!(readings::record))
        .routes(routes!(readings::strike))
        .routes(routes!(gauges::gauge_room))
        .routes(routes!(gauge_link::gauge_link))
        .routes(routes!(gauges::put_gauge))
        .routes(routes!(gauge_sessions::open_session))
        .routes(routes!(gauge_sessions::close_session))
        .routes(routes!(benches::benches))
        .routes(routes!(work::record_work))
        .routes(routes!(work::impact_of_work))
        .routes(routes!(set_ups::record_set_up))
        .routes(routes!(set_ups::impact_of_set_up))
        .routes(routes!(inspections::record_inspection))
        .routes(routes!(cylinder_orders::write_cylinder_order))
        .routes(routes!(noted::notes_of))
        .routes(routes!(noted::note_part))
        .routes(routes!(noted::say_gauge_point))
        .routes(routes!(grids::record_grid))
        .routes(routes!(grids::grids_of))
        .routes(routes!(checks::record_check))
        .routes(routes!(checks::record_mishap))
        .routes(routes!(checks::impact_of_mishap))
        .routes(routes!(blind::ask_blind))
        .routes(routes!(rules::change_rules))
        .routes(routes!(rules::change_plan))
        .routes(routes!(shelf::shells))
        .routes(routes!(families::read_number))
        .routes(routes!(families::put_family))
        .routes(routes!(shelf::shelf_history, shelf::move_shells))
        .routes(routes!(shelf::receive_sets))
        .routes(routes!(shelf::put_place))
        .routes(routes!(proposals::propose_shells))
        .routes(routes!(proposals::pick_csv))
        .routes(routes!(proposals::order_csv))
        .routes(routes!(fittings::fit_shells))
        .routes(routes!(narrowing::plan_narrowing))
        .routes(routes!(cam::plan_cam))
        .routes(routes!(edges::fillet_section))
        .routes(routes!(trials::turn_cam))
        .routes(routes!(pictures::list_pictures))
        .routes(routes!(pictures::show_picture))
        .routes(routes!(bores::plan_bores_of))
        .routes(routes!(bores::block_of))
        .routes(routes!(boring::ask_boring))
        .routes(routes!(boring::ask_hatch))
        .routes(routes!(boring::record_strokes, boring::stroke_logs_of))
        .routes(routes!(boring::polishes_of))
        .routes(routes!(straightness::run_of_crank))
        .routes(routes!(washers::washers))
        .routes(routes!(washers::put_washers))
        .routes(routes!(washers::move_washers))
        .routes(routes!(washers::ask_washers))
        .routes(routes!(washers::ask_thrust_need))
        .routes(routes!(washers::fit_washers))
        .routes(routes!(crank_check::check_family))
        .routes(routes!(crank_check::record_stamps))
        .routes(routes!(track_record::predictions))
        .routes(routes!(trays::tray, trays::record_tray))
        .routes(routes!(trays::fit_tray))
        .routes(routes!(rods::assign_rods))
        .routes(routes!(parts::enter_part))
        .routes(routes!(parts::assign))
        .routes(routes!(parts::impact_of_assignment))
        .routes(routes!(parts::condemn))
        .routes(routes!(parts::compare_cranks))
        .routes(routes!(parts::as_if))
        .routes(routes!(orders::plan_machining))
        .routes(routes!(orders::write_order))
        .routes(routes!(orders::move_order))
        .routes(routes!(orders::order_file))
        .routes(routes!(targets::set))
        .routes(routes!(target_rows::target_rows, target_rows::set_target_rows))
        .routes(routes!(concessions::accept))
        .routes(routes!(signatures::sign))
        .routes(routes!(files::export_json))
        .routes(routes!(files::export_csv))
        .routes(routes!(files::export_xlsx))
        .merge(OpenApiRouter::new().routes(routes!(files::import)).layer(DefaultBodyLimit::max(files::LARGEST_FILE)))
        .merge(
            OpenApiRouter::new()
                .routes(routes!(pictures::take_picture))
                .layer(DefaultBodyLimit::max(pictures::LARGEST)),
        )
        .routes(routes!(tables::readings_csv))
        .routes(routes!(tables::readings_template))
        .routes(routes!(tables::preview_readings))
        .routes(routes!(tables::import_readings))
        .routes(routes!(events::events))
        .routes(routes!(calc::calculate))
}

/// The OpenAPI document of the API.
pub fn openapi() -> utoipa::openapi::OpenApi {
    let mut document = api().split_for_parts().1;
    document.info.version = env!("CARGO_PKG_VERSION").into();
    document::name_problems(&mut document);
    document
}

/// Answers with a problem to an address that is not there, below the API.
async fn nothing_here(_: Request) -> Response {
    Problem::NoSuchAddress.into_response()
}

/// A fault of ours in one request is answered as one, and takes nothing else with it.
fn caught(_: Box<dyn std::any::Any + Send>) -> Response {
    tracing::error!("a handler panicked");
    Problem::Internal.into_response()
}

/// Answers with a problem what takes too long; it is given up.
async fn within(limit: std::time::Duration, request: Request, next: Next) -> Response {
    let answer = tokio::time::timeout(limit, next.run(request)).await;
    answer.unwrap_or_else(|_| Problem::TooSlow.into_response())
}

/// The whole application: the API, and the web application for every other address.
pub fn app(state: AppState) -> Router {
    // The cookie travels to this site only; scripts cannot read it.
    let sessions = SessionManagerLayer::new(DatabaseSessions(state.store.clone()))
        .with_name(fair::SESSION)
        .with_same_site(SameSite::Strict)
        .with_http_only(true)
        .with_secure(state.secure)
        .with_expiry(Expiry::OnInactivity(Duration::hours(SESSION_HOURS)));
    let page = ServeFile::new(state.web.join("index.html")).with_buf_chunk_size(CHUNK);
    let files = ServeDir::new(&state.web).with_buf_chunk_size(CHUNK).fallback(page);
    // A script of an earlier version that is gone is not a page.
    let assets = ServeDir::new(state.web.join("assets")).with_buf_chunk_size(CHUNK);
    let (router, _) = api().split_for_parts();
    let fixed = |name: HeaderName, value: &'static str| {
        SetResponseHeaderLayer::if_not_present(name, HeaderValue::from_static(value))
    };
    let transport =
        tower::util::option_layer(state.secure.then(|| fixed(header::STRICT_TRANSPORT_SECURITY, TRANSPORT)));
    router
        .route("/api/{*rest}", axum::routing::any(nothing_here))
        .method_not_allowed_fallback(async || Problem::NoSuchMethod)
        .layer(fixed(header::CACHE_CONTROL, "no-store"))
        .layer(sessions)
        .layer(from_fn_with_state(state.clone(), fair::share))
        .layer(from_fn(bodies::first))
        .layer(from_fn(|request, next| within(ANSWER_WITHIN, request, next)))
        .layer(RequestBodyTimeoutLayer::new(SILENT_FOR))
        .nest_service("/assets", assets)
        .route("/api", axum::routing::any(nothing_here))
        .fallback_service(files)
        // A stream of events is left as it is: each of them has to arrive by itself.
        .layer(CompressionLayer::new())
        .layer(CatchPanicLayer::custom(caught))
        .layer(fixed(header::CONTENT_SECURITY_POLICY, CONTENT_POLICY))
        .layer(fixed(header::X_CONTENT_TYPE_OPTIONS, "nosniff"))
        .layer(fixed(header::REFERRER_POLICY, "no-referrer"))
        .layer(fixed(HeaderName::from_static("permissions-policy"), PERMISSIONS))
        .layer(fixed(HeaderName::from_static("cross-origin-opener-policy"), "same-origin"))
        .layer(transport)
        .layer(DefaultBodyLimit::max(LARGEST_BODY))
        .layer(TraceLayer::new_for_http())
        .with_state(state)
}

#[cfg(test)]
mod tests {
    use super::*;
    use axum::body::Body;
    use tower::ServiceExt;

    #[tokio::test]
    async fn what_takes_too_long_is_answered_with_a_problem() -> Result<(), Box<dyn std::error::Error>> {
        let at_once = std::time::Duration::ZERO;
        let slow = Router::new()
            .route("/", axum::routing::get(std::future::pending::<()>))
            .layer(from_fn(move |request, next| within(at_once, request, next)));
        let answer = slow.oneshot(Request::new(Body::empty())).await?;
        assert_eq!(answer.status(), axum::http::StatusCode::SERVICE_UNAVAILABLE);
        let body = axum::body::to_bytes(answer.into_body(), 4_096).await?;
        assert!(String::from_utf8_lossy(&body).contains("too_slow"));
        Ok(())
    }
}
