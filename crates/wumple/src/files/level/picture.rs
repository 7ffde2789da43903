//! A map as a picture: a pixel a tile.

use std::collections::BTreeMap;
use std::io::Cursor;

use png::{ColorType, Decoder, Transformations};

use super::{MOST_TILES, is_colour};

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
    let picture = decode(bytes).map_err(|why| vec![why])?;
    let width = picture.width;
    let mut rows: Vec<Vec<char>> = Vec::with_capacity(picture.height());
    // Each unknown colour once, with its first pixel and how many there are.
    let mut unknown: BTreeMap<Pixel, (usize, usize, usize)> = BTreeMap::new();
    // Mostly a pixel is like the one before it.
    let mut before: (Pixel, char) = ([0; 4], '.');
    for row in 0..picture.height() {
        let letters = picture.row(row, |column, pixel| {
            if pixel != before.0 {
                let letter = match known.iter().find(|(colour, _)| is_opaque(pixel, *colour)) {
                    _ if pixel[3] == 0 => '.',
                    Some((_, letter)) => *letter,
                    None => {
                        unknown.entry(pixel).or_insert((column, row, 0)).2 += 1;
                        return '.';
                    }
                };
                before = (pixel, letter);
            }
            before.1
        });
        rows.push(letters);
        if unknown.len() > MOST_COLOURS {
            let (colours, height) = (known.len(), picture.height());
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

/// A picture as it was decoded: so many bytes a pixel, row by row.
struct Picture {
    width: usize,
    bytes: Vec<u8>,
    colours: ColorType,
}

impl Picture {
    fn bytes_a_pixel(&self) -> usize {
        match self.colours {
            ColorType::Grayscale => 1,
            ColorType::GrayscaleAlpha => 2,
            ColorType::Rgb => 3,
            // A palette was expanded.
            ColorType::Rgba | ColorType::Indexed => 4,
        }
    }

    fn height(&self) -> usize {
        self.bytes.len() / (self.width * self.bytes_a_pixel()).max(1)
    }

    /// What each pixel of a row, with its column, stands for.
    fn row(&self, row: usize, letter: impl FnMut(usize, Pixel) -> char) -> Vec<char> {
        let long = self.width * self.bytes_a_pixel();
        let bytes = &self.bytes[row * long..(row + 1) * long];
        match self.colours {
            ColorType::Grayscale => letters(bytes, |[grey]| [grey, grey, grey, 255], letter),
            ColorType::GrayscaleAlpha => letters(bytes, |[grey, opaque]| [grey, grey, grey, opaque], letter),
            ColorType::Rgb => letters(bytes, |[red, green, blue]| [red, green, blue, 255], letter),
            ColorType::Rgba | ColorType::Indexed => letters(bytes, |pixel: Pixel| pixel, letter),
        }
    }
}

fn letters<const BYTES: usize>(
    bytes: &[u8],
    pixel: impl Fn([u8; BYTES]) -> Pixel,
    mut letter: impl FnMut(usize, Pixel) -> char,
) -> Vec<char> {
    bytes.as_chunks().0.iter().enumerate().map(|(column, bytes)| letter(column, pixel(*bytes))).collect()
}

/// The picture; or why there is none, in words.
fn decode(bytes: &[u8]) -> Result<Picture, String> {
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
    buffer.truncate(info.buffer_size());
    Ok(Picture { width: info.width as usize, bytes: buffer, colours: info.color_type })
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
