//! Engineering drawings: jump arcs, levels, and paths through them, as SVG or PNG of the same content.
//!
//! A [`Figure`] is 1280 x 800 px, one over a level as much lower as it can, or as its [`Page`] says. The same input gives the same bytes; no system font or display is
//! needed.

mod arcs;
mod body;
mod button_bars;
mod compare;
mod flight;
mod frame;
mod gates;
mod groups;
mod labels;
mod layout;
mod level;
mod level_arcs;
mod matching;
mod panel;
mod platforms;
mod reach;
mod render;
mod report;
mod ride;
mod run;
mod run_time;
mod sheet;
mod surfaces;
mod time;
mod trial;
mod vary;
mod zones;

pub use arcs::arcs_figure;
pub use body::body_figure;
pub use compare::{compare_figure, compare_time_figure};
pub use flight::flight_figure;
pub use layout::{Page, TileArea};
pub use level::level_figure;
pub use level_arcs::level_arcs_figure;
pub use matching::match_figure;
pub use reach::reach_figure;
pub use render::RenderError;
pub use report::trial_report;
pub use ride::ride_figure;
pub use run::run_figure;
pub use run_time::run_time_figure;
pub use time::time_figure;
pub use trial::trial_figure;
pub use vary::vary_figure;

/// A finished drawing.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Figure {
    svg: String,
    size: (u32, u32),
}

impl Figure {
    /// The usual width, px.
    pub const WIDTH: u32 = 1280;
    /// The usual height, px.
    pub const HEIGHT: u32 = 800;

    /// Its width and height, px.
    #[must_use]
    pub fn size(&self) -> (u32, u32) {
        self.size
    }

    /// The drawing as SVG.
    #[must_use]
    pub fn svg(&self) -> &str {
        &self.svg
    }

    /// The same drawing on dark paper, its colours as far from that as they were from the light.
    #[must_use]
    pub fn dark(&self) -> Figure {
        Figure { svg: sheet::dark(&self.svg), size: self.size }
    }

    /// The drawing as PNG: the SVG, rendered with the font that comes with the library.
    ///
    /// # Errors
    ///
    /// If the renderer refuses the drawing, which would be a defect of this crate.
    pub fn png(&self) -> Result<Vec<u8>, RenderError> {
        render::png(&self.svg)
    }

    /// The drawing as pixels, for a screen or a terminal: `width` px wide, and as high as it then is.
    ///
    /// # Errors
    ///
    /// Like [`Figure::png`]; or if there is no memory for so many.
    pub fn pixels(&self, width: u32) -> Result<Pixels, RenderError> {
        render::pixels(&self.svg, width)
    }
}

/// A drawing as pixels, row by row from the top left.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Pixels {
    /// Width, px.
    pub width: u32,
    /// Height, px.
    pub height: u32,
    /// Red, green, blue and opacity of each, from 0 to 255; none is transparent.
    pub rgba: Vec<u8>,
}
