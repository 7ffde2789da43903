//! Figures beside their files: in dark colours, in the terminal, in the system's viewer.

use std::fmt::Write as _;
use std::path::Path;

use base64::Engine;
use clap::{Args, ValueEnum};
use icy_sixel::SixelImage;
use wumple::figures::{Figure, Pixels};

use crate::failure::Failure;
use crate::output::is_aside;

/// What is done with the figures of a command, beside writing them.
#[derive(Args, Clone, Default)]
pub(crate) struct Pictures {
    /// Draw figures in dark colours
    #[arg(long)]
    pub(crate) dark: bool,
    /// Show figures in the terminal too: as it says that it can, or as told (kitty, sixel, blocks)
    #[arg(
        long,
        value_enum,
        value_name = "auto|kitty|sixel|blocks",
        hide_possible_values = true,
        num_args = 0..=1,
        require_equals = true,
        default_missing_value = "auto"
    )]
    pub(crate) show: Option<Show>,
    /// Open figures with the system's viewer too
    #[arg(long)]
    pub(crate) open: bool,
}

impl Pictures {
    /// Whether a figure is wanted that no file is named for.
    pub(crate) fn want_one(&self) -> bool {
        self.open || self.show.is_some()
    }
}

/// How a terminal is given a picture.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum Show {
    /// As its variables say that it can
    Auto,
    /// As PNG, in the protocol of kitty
    Kitty,
    /// As sixels
    Sixel,
    /// As letters that are half one colour, half another
    Blocks,
}

impl Show {
    /// What this terminal can do, as far as it tells: one that can more is told with the option.
    fn resolved(self) -> Show {
        if self != Show::Auto {
            return self;
        }
        let variable = |name: &str| std::env::var(name).unwrap_or_default();
        let (term, program) = (variable("TERM"), variable("TERM_PROGRAM"));
        let is = |words: &[&str]| words.iter().any(|word| term.contains(word) || program.eq_ignore_ascii_case(word));
        if is(&["kitty", "ghostty", "wezterm"]) {
            Show::Kitty
        } else if is(&["sixel", "foot", "mlterm", "mintty", "vt340"]) {
            Show::Sixel
        } else {
            Show::Blocks
        }
    }
}

/// A figure as what a terminal of this width shows as a picture.
pub(crate) fn for_terminal(figure: &Figure, show: Show, columns: usize) -> Result<String, Failure> {
    let (width, room) = (figure.size().0, width_px().unwrap_or(columns as u32 * CELL_WIDTH));
    match show.resolved() {
        Show::Kitty => Ok(kitty(&figure.png()?, (room < width).then_some(columns))),
        Show::Sixel => sixel(figure.pixels(width.min(room).min(WIDEST_SIXELS))?),
        _ => Ok(blocks(&figure.pixels(columns as u32)?)),
    }
}

/// How wide the terminal is, px, if it says so.
fn width_px() -> Option<u32> {
    #[cfg(unix)]
    let width = {
        use rustix::termios::tcgetwinsize;
        let size = if is_aside() { tcgetwinsize(std::io::stderr()) } else { tcgetwinsize(std::io::stdout()) };
        size.ok().map(|size| u32::from(size.ws_xpixel))
    };
    #[cfg(not(unix))]
    let width = None;
    width.filter(|width| *width > 0)
}

/// How wide a letter is at least, px, where it does not.
const CELL_WIDTH: u32 = 8;
/// Some terminals drop sixels that are wider, px.
const WIDEST_SIXELS: u32 = 1000;

/// PNG in pieces, none longer than the protocol allows; made to fit into so many columns where it is too wide.
/// <https://sw.kovidgoyal.net/kitty/graphics-protocol/>
fn kitty(png: &[u8], columns: Option<usize>) -> String {
    const PIECE: usize = 4096;
    let text = base64::engine::general_purpose::STANDARD.encode(png);
    let mut written = String::new();
    let columns = columns.map_or(String::new(), |columns| format!("c={columns},"));
    let mut head = format!("a=T,f=100,{columns}");
    let mut rest = text.as_str();
    while !rest.is_empty() {
        let (piece, more) = rest.split_at(rest.len().min(PIECE));
        let goes_on = u8::from(!more.is_empty());
        let _ = write!(written, "\x1b_G{head}m={goes_on};{piece}\x1b\\");
        (rest, head) = (more, String::new());
    }
    written + "\n"
}

fn sixel(pixels: Pixels) -> Result<String, Failure> {
    let image = SixelImage::from_rgba(pixels.rgba, pixels.width as usize, pixels.height as usize);
    let text = image.encode().map_err(|error| Failure::Usage(format!("--show=sixel: {error}")))?;
    Ok(text + "\n")
}

/// Two rows of pixels in a row of letters: the upper half in one colour, what is behind it in the other.
fn blocks(pixels: &Pixels) -> String {
    let row_of = |row: usize| pixels.rgba.chunks_exact(pixels.width as usize * 4).nth(row);
    let colour = |pixel: &[u8]| format!("{};{};{}", pixel[0], pixel[1], pixel[2]);
    let mut written = String::new();
    for row in (0..pixels.height as usize).step_by(2) {
        let (Some(upper), lower) = (row_of(row), row_of(row + 1)) else { break };
        let mut before = (String::new(), None);
        for (column, pixel) in upper.chunks_exact(4).enumerate() {
            let now = (colour(pixel), lower.map(|lower| colour(&lower[column * 4..column * 4 + 4])));
            if now.0 != before.0 {
                let _ = write!(written, "\x1b[38;2;{}m", now.0);
            }
            if let (true, Some(below)) = (now.1 != before.1, &now.1) {
                let _ = write!(written, "\x1b[48;2;{below}m");
            }
            written.push('▀');
            before = now;
        }
        written += "\x1b[0m\n";
    }
    written
}

/// Opens a file with the viewer that the system has for it.
pub(crate) fn open(path: &Path) -> Result<(), Failure> {
    let whole = std::path::absolute(path)?;
    open::that_detached(&whole)
        .map_err(|error| Failure::Usage(format!("--open: nothing was found to show {} with: {error}", path.display())))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn drawn() -> Figure {
        let tuning = wumple::TuningFile::parse("dab.tuning.toml", wumple::demo::DAB).expect("a tuning");
        wumple::figures::body_figure(&tuning)
    }

    #[test]
    fn kitty_gets_the_png_in_pieces() {
        let figure = drawn();
        let text = for_terminal(&figure, Show::Kitty, 100).unwrap_or_default();
        let pieces: Vec<&str> = text.trim_end().split("\x1b\\").filter(|piece| !piece.is_empty()).collect();
        assert!(pieces.len() > 3 && pieces[0].starts_with("\x1b_Ga=T,f=100,c=100,m=1;"));
        let (last, before) = pieces.split_last().unwrap();
        assert!(last.starts_with("\x1b_Gm=0;") && before[1..].iter().all(|piece| piece.starts_with("\x1b_Gm=1;")));
        let payload: String = pieces.iter().map(|piece| piece.split_once(';').unwrap().1).collect();
        let png = base64::engine::general_purpose::STANDARD.decode(payload).unwrap();
        assert_eq!(Some(png), figure.png().ok());
        assert!(pieces.iter().all(|piece| piece.split_once(';').unwrap().1.len() <= 4096));
    }

    #[test]
    fn sixels_are_a_picture_of_nearly_the_same_colours() {
        let figure = drawn();
        let text = for_terminal(&figure, Show::Sixel, 50).unwrap_or_default();
        let back = SixelImage::decode(text.trim_end().as_bytes()).unwrap();
        let pixels = figure.pixels(400).unwrap();
        // Sixels are six rows high.
        assert_eq!((back.width, back.height), (400, pixels.height.next_multiple_of(6) as usize));
        let off = back.pixels.iter().zip(&pixels.rgba).map(|(a, b)| u64::from(a.abs_diff(*b))).sum::<u64>();
        assert!(off < pixels.rgba.len() as u64 * 4, "{off}");
    }

    #[test]
    fn blocks_are_two_rows_of_pixels_in_one_of_letters() {
        let pixels = drawn().pixels(80).unwrap();
        let text = blocks(&pixels);
        assert_eq!(text.lines().count(), pixels.height.div_ceil(2) as usize);
        assert!(text.lines().all(|line| line.matches('▀').count() == 80 && line.ends_with("\x1b[0m")));
        assert!(text.starts_with("\x1b[38;2;251;249;244m\x1b[48;2;251;249;244m▀"));
    }
}
