//! What the generated document of the API says of problems.
use utoipa::openapi::path::{Operation, PathItem};
use utoipa::openapi::{Content, OpenApi, RefOr, Response};

use crate::http::problem::PROBLEM_JSON;

/// How the generator calls every body.
const JSON: &str = "application/json";

/// Puts every problem under the content type that it comes with.
pub(super) fn name_problems(document: &mut OpenApi) {
    let operations = document.paths.paths.values_mut().flat_map(operations);
    operations.flat_map(|operation| operation.responses.responses.values_mut()).for_each(name_problem);
}

fn operations(path: &mut PathItem) -> impl Iterator<Item = &mut Operation> {
    [&mut path.get, &mut path.put, &mut path.post, &mut path.delete].into_iter().flatten()
}

fn name_problem(response: &mut RefOr<Response>) {
    let RefOr::T(response) = response else { return };
    let is_problem = |content: &RefOr<Content>| match content {
        RefOr::T(Content { schema: Some(RefOr::Ref(schema)), .. }) => schema.ref_location.ends_with("/ProblemBody"),
        _ => false,
    };
    if response.content.get(JSON).is_some_and(is_problem)
        && let Some(content) = response.content.shift_remove(JSON)
    {
        response.content.insert(PROBLEM_JSON.into(), content);
    }
}
