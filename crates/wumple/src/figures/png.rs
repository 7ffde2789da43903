use std::sync::Arc;

use resvg::{tiny_skia, usvg};

use super::sheet;

/// Why a figure could not be rendered as PNG.
#[derive(Debug, thiserror::Error)]
#[error("the figure could not be rendered as PNG: {0}")]
pub struct PngError(String);

/// Renders an SVG of ours with the font that comes along, and no other.
pub(super) fn render(svg: &str) -> Result<Vec<u8>, PngError> {
    let refused = |error: &dyn std::fmt::Display| PngError(error.to_string());
    let mut fonts = usvg::fontdb::Database::new();
    fonts.load_font_source(usvg::fontdb::Source::Binary(Arc::new(sheet::FONT())));
    let options =
        usvg::Options { fontdb: Arc::new(fonts), font_family: sheet::FONT_NAME.into(), ..usvg::Options::default() };
    let tree = usvg::Tree::from_str(svg, &options).map_err(|error| refused(&error))?;
    let size = tree.size().to_int_size();
    let mut pixels = tiny_skia::Pixmap::new(size.width(), size.height()).ok_or(PngError("no memory".into()))?;
    resvg::render(&tree, tiny_skia::Transform::identity(), &mut pixels.as_mut());
    pixels.encode_png().map_err(|error| refused(&error))
}
