//! The catalogue of what can be measured and judged.
use axum::Json;

use crate::http::auth::Who;
use crate::http::problem::ProblemBody;
use crate::views::catalog::CatalogView;

/// Everything that can be measured and judged: the bench, the sheet and the files are drawn from it.
#[utoipa::path(get, path = "/api/v1/catalog",
    responses((status = 200, body = CatalogView), (status = 401, body = ProblemBody)))]
pub(super) async fn catalog(_: Who) -> Json<CatalogView> {
    Json(CatalogView::whole())
}
