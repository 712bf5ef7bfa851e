//! The catalogue: everything that can be measured and judged, a row each, a file for each subject.

mod bearings;
mod cam;
mod crank;
mod crush;
mod cylinders;
mod faces;
mod fillet;
mod judged;
mod measured;
mod plan;
mod rod_side;
mod subjects;
mod thrust;
mod wrist_pins;

pub use judged::{Figure, Method};
pub use measured::Characteristic;
pub use plan::{MOST_POSITIONS, Plan, PlanError};
pub use subjects::NotInCatalog;

/// Names of the catalogue are written as texts in the API document.
#[cfg(feature = "schema")]
mod schema {
    use std::borrow::Cow;

    use utoipa::openapi::RefOr;
    use utoipa::openapi::schema::{ObjectBuilder, Schema, Type};
    use utoipa::{PartialSchema, ToSchema};

    use super::{Characteristic, Figure, Method};
    use crate::engine::Role;

    fn names(all: impl Iterator<Item = &'static str>) -> RefOr<Schema> {
        let mut known: Vec<&str> = all.collect();
        known.sort_unstable();
        known.dedup();
        ObjectBuilder::new().schema_type(Type::String).enum_values(Some(known)).into()
    }

    macro_rules! named {
        ($($type:ident: $names:expr),*) => {
            $(impl PartialSchema for $type {
                fn schema() -> RefOr<Schema> {
                    names($names)
                }
            }

            impl ToSchema for $type {
                fn name() -> Cow<'static, str> {
                    stringify!($type).into()
                }
            })*
        };
    }

    named! {
        Characteristic: Characteristic::all().map(Characteristic::name),
        Figure: Figure::all().map(Figure::name),
        Method: Figure::all().flat_map(|f| f.row().methods).map(|m| m.id),
        Role: Characteristic::all().map(|c| c.role().name())
    }
}
