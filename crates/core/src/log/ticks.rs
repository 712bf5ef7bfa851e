//! What somebody looks at and ticks: it shows in no figure, so nothing but a look says that it is so.
use serde::{Deserialize, Serialize};

/// Something that was looked at.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Tick {
    /// The oil hole of every bush lies over its drilling and is open.
    OilHolesOpen,
    /// Hot water, detergent and a stiff brush.
    Scrubbed,
    /// A white cloth with light oil comes out white.
    WhiteCloth,
    /// Dried, and oiled at once.
    Oiled,
    /// Every plug was out, every drilling brushed.
    DrillingsBrushed,
    /// Every plug is back, sealed and secured.
    PlugsBack,
    /// Rings are in their own cylinder's grooves, marks up.
    MarksUp,
    /// Gaps stand apart, none over the thrust side or the pin.
    GapsApart,
    /// The expander's ends butt and do not lap; rails staggered from it.
    ExpanderButts,
}
