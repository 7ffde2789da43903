use core::fmt;

/// A side of the map or of a body.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum Side {
    /// Towards smaller x.
    Left,
    /// Towards greater x.
    Right,
    /// Towards smaller y.
    Top,
    /// Towards greater y.
    Bottom,
}

impl Side {
    /// All four.
    pub const ALL: [Side; 4] = [Side::Left, Side::Right, Side::Top, Side::Bottom];

    /// The word used in files and traces.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Side::Left => "left",
            Side::Right => "right",
            Side::Top => "top",
            Side::Bottom => "bottom",
        }
    }
}

impl fmt::Display for Side {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.name())
    }
}

/// What lies beyond one edge of the map: a half-plane of this.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum Edge {
    /// A wall, floor or ceiling without end.
    Solid,
    /// Nothing; a body may go on until it is lost.
    Open,
    /// Nothing; a body wholly beyond it has died.
    Deadly,
}

impl Edge {
    /// The words used in level files.
    pub const NAMES: [(&'static str, Edge); 3] =
        [("solid", Edge::Solid), ("open", Edge::Open), ("deadly", Edge::Deadly)];
}

/// What lies outside the map. By default left and right are solid, the top open, the bottom deadly.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct Edges {
    /// Beyond x = 0.
    pub left: Edge,
    /// Beyond the last column.
    pub right: Edge,
    /// Above y = 0.
    pub top: Edge,
    /// Below the last row.
    pub bottom: Edge,
}

impl Default for Edges {
    fn default() -> Edges {
        Edges { left: Edge::Solid, right: Edge::Solid, top: Edge::Open, bottom: Edge::Deadly }
    }
}

impl Edges {
    /// What lies beyond this side.
    #[must_use]
    pub fn on(&self, side: Side) -> Edge {
        match side {
            Side::Left => self.left,
            Side::Right => self.right,
            Side::Top => self.top,
            Side::Bottom => self.bottom,
        }
    }
}
