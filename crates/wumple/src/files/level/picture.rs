//! A map as a picture: a pixel a tile.

use std::collections::BTreeMap;
use std::io::Cursor;

use png::{ColorType, Decoder, Transformations};

use super::is_colour;
use super::map::MOST_TILES;

/// So many colours that none of the map's are, and the picture is no map.
const MOST_COLOURS: usize = 32;

/// Red, green, blue and how opaque, from 0 to 255.
type Pixel = [u8; 4];

/// Reads a PNG of any kind as rows of letters; a pixel that cannot be seen is the empty tile.
///
/// # Errors
///
/// All that is wrong with it and with the colours, in words.
pub(super) fn read_picture(bytes: &[u8], colours: &[(String, char)]) -> Result<Vec<Vec<char>>, Vec<String>> {
    let known = known_colours(colours)?;
    let (width, pixels) = decode(bytes).map_err(|why| vec![why])?;
    let mut rows: Vec<Vec<char>> = Vec::new();
    // Each unknown colour once, with its first pixel and how many there are.
    let mut unknown: BTreeMap<Pixel, (usize, usize, usize)> = BTreeMap::new();
    let pixels_high = pixels.len() / width;
    for (row, pixels) in pixels.chunks(width).enumerate() {
        let mut letters = Vec::with_capacity(width);
        for (column, pixel) in pixels.iter().enumerate() {
            letters.push(match known.iter().find(|(colour, _)| is_opaque(*pixel, *colour)) {
                _ if pixel[3] == 0 => '.',
                Some((_, letter)) => *letter,
                None => {
                    unknown.entry(*pixel).or_insert((column, row, 0)).2 += 1;
                    '.'
                }
            });
        }
        rows.push(letters);
        if unknown.len() > MOST_COLOURS {
            let (colours, height) = (known.len(), pixels_high);
            return Err(vec![format!(
                "this looks like an image of the level, not like a map: it has {width} x {height} px, more than \
                 {MOST_COLOURS} colours, and map.colours has {colours}; one pixel is one tile"
            )]);
        }
    }
    if unknown.is_empty() {
        return Ok(rows);
    }
    let mut messages: Vec<_> =
        unknown.into_iter().map(|(pixel, found)| (found, unknown_colour(pixel, found, &known))).collect();
    messages.sort_by_key(|((column, row, _), _)| (*row, *column));
    Err(messages.into_iter().map(|(_, message)| message).collect())
}

/// Whether a pixel is of this colour, and nothing shines through.
fn is_opaque(pixel: Pixel, colour: [u8; 3]) -> bool {
    pixel == [colour[0], colour[1], colour[2], 255]
}

fn known_colours(colours: &[(String, char)]) -> Result<Vec<([u8; 3], char)>, Vec<String>> {
    let read = |(word, letter): &(String, char)| {
        let digits = word.get(1..).filter(|_| is_colour(word));
        let number = digits
            .and_then(|digits| u32::from_str_radix(digits, 16).ok())
            .ok_or_else(|| format!("\"{word}\" in map.colours is no colour; it must be of the form \"#8c4a2f\""))?;
        let [_, red, green, blue] = number.to_be_bytes();
        Ok(([red, green, blue], *letter))
    };
    let (known, wrong): (Vec<_>, Vec<_>) = colours.iter().map(read).partition(Result::is_ok);
    let wrong: Vec<String> = wrong.into_iter().filter_map(Result::err).collect();
    if wrong.is_empty() { Ok(known.into_iter().flatten().collect()) } else { Err(wrong) }
}

/// The picture's width, and its pixels row by row; or why there are none, in words.
fn decode(bytes: &[u8]) -> Result<(usize, Vec<Pixel>), String> {
    let wrong = |error: png::DecodingError| format!("this is no PNG that can be read: {error}");
    let mut decoder = Decoder::new(Cursor::new(bytes));
    decoder.set_transformations(Transformations::EXPAND | Transformations::STRIP_16);
    let mut reader = decoder.read_info().map_err(wrong)?;
    let (width, height) = reader.info().size();
    if u64::from(width) * u64::from(height) > MOST_TILES as u64 {
        return Err(format!(
            "the picture has {width} x {height} pixels; a map may have {MOST_TILES} tiles, a pixel each"
        ));
    }
    let mut buffer = vec![0; reader.output_buffer_size().unwrap_or(0)];
    let info = reader.next_frame(&mut buffer).map_err(wrong)?;
    let buffer = &buffer[..info.buffer_size()];
    let pixels = match info.color_type {
        ColorType::Grayscale => buffer.iter().map(|grey| [*grey, *grey, *grey, 255]).collect(),
        ColorType::GrayscaleAlpha => buffer.chunks_exact(2).map(|p| [p[0], p[0], p[0], p[1]]).collect(),
        ColorType::Rgb => buffer.chunks_exact(3).map(|p| [p[0], p[1], p[2], 255]).collect(),
        // A palette was expanded.
        ColorType::Rgba | ColorType::Indexed => buffer.chunks_exact(4).map(|p| [p[0], p[1], p[2], p[3]]).collect(),
    };
    Ok((info.width as usize, pixels))
}

fn unknown_colour(pixel: Pixel, (column, row, count): (usize, usize, usize), known: &[([u8; 3], char)]) -> String {
    let [red, green, blue, opaque] = pixel;
    let name = |[red, green, blue]: [u8; 3]| format!("#{red:02x}{green:02x}{blue:02x}");
    let mut words = format!("the pixel at column {column}, row {row} is {}", name([red, green, blue]));
    if opaque < 255 {
        words += &format!(", {opaque} of 255 opaque");
    }
    if count > 1 {
        words += &format!(" (like {} more)", count - 1);
    }
    words += ", which no colour of map.colours is; ";
    let away =
        |colour: &[u8; 3]| -> u32 { colour.iter().zip(&pixel).map(|(a, b)| u32::from(a.abs_diff(*b)).pow(2)).sum() };
    match known.iter().min_by_key(|(colour, _)| away(colour)) {
        Some((colour, letter)) => words + &format!("the nearest is {} = \"{letter}\"", name(*colour)),
        None => words + "it has none: say what it stands for, such as colours = { \"#8c4a2f\" = \"#\" }",
    }
}
