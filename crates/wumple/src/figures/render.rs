use std::sync::Arc;

use resvg::{tiny_skia, usvg};

use super::{Pixels, sheet};

/// Why a figure could not be rendered as a picture of pixels.
#[derive(Debug, thiserror::Error)]
#[error("the figure could not be rendered: {0}")]
pub struct RenderError(String);

/// An SVG of ours as PNG.
pub(super) fn png(svg: &str) -> Result<Vec<u8>, RenderError> {
    render(svg, None)?.encode_png().map_err(|error| RenderError(error.to_string()))
}

/// The same as pixels, of this width.
pub(super) fn pixels(svg: &str, width: u32) -> Result<Pixels, RenderError> {
    let drawn = render(svg, Some(width))?;
    // The paper covers all of it, so nothing is transparent.
    Ok(Pixels { width: drawn.width(), height: drawn.height(), rgba: drawn.take() })
}

/// Renders it with the font that comes along, and no other: of its own width or of another.
fn render(svg: &str, width: Option<u32>) -> Result<tiny_skia::Pixmap, RenderError> {
    let mut fonts = usvg::fontdb::Database::new();
    fonts.load_font_source(usvg::fontdb::Source::Binary(Arc::new(sheet::FONT())));
    let options =
        usvg::Options { fontdb: Arc::new(fonts), font_family: sheet::FONT_NAME.into(), ..usvg::Options::default() };
    let tree = usvg::Tree::from_str(svg, &options).map_err(|error| RenderError(error.to_string()))?;
    let own = tree.size();
    let width = width.unwrap_or(own.width() as u32).max(1);
    let scale = width as f32 / own.width();
    // No row that is covered in part.
    let height = ((own.height() * scale) as u32).max(1);
    let mut pixels = tiny_skia::Pixmap::new(width, height).ok_or(RenderError("no memory".into()))?;
    resvg::render(&tree, tiny_skia::Transform::from_scale(scale, scale), &mut pixels.as_mut());
    Ok(pixels)
}
