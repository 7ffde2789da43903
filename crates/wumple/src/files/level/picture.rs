//! A map as a picture: a pixel a tile.

use std::collections::BTreeMap;
use std::io::Cursor;

use png::{ColorType, Decoder, Transformations};

use super::{LetterKind, MOST_TILES, is_colour};

/// So many colours that none of the map's are, and the picture is no map.
const MOST_COLOURS: usize = 32;

/// Red, green, blue and how opaque, from 0 to 255.
type Pixel = [u8; 4];

/// A colour of `map.colours`, and what it stands for: as a letter, and as an index into the letters.
struct Known {
    colour: [u8; 3],
    letter: char,
    kind: u8,
}

/// Reads a PNG of any kind: how many columns it has, and its tiles row by row, as indices into the letters, which
/// those of `colours` are among. A pixel that cannot be seen is the empty tile.
///
/// # Errors
///
/// All that is wrong with it and with the colours, in words.
pub(super) fn read_picture(
    bytes: &[u8],
    colours: &[(String, char)],
    letters: &[LetterKind],
) -> Result<(usize, Vec<u8>), Vec<String>> {
    let known = known_colours(colours, letters)?;
    let empty = kind_of('.', letters);
    let picture = decode(bytes).map_err(|why| vec![why])?;
    let width = picture.width;
    let mut tiles: Vec<u8> = Vec::with_capacity(width * picture.height());
    // Each unknown colour once, with its first pixel and how many there are.
    let mut unknown: BTreeMap<Pixel, (usize, usize, usize)> = BTreeMap::new();
    // Maps have few colours: each is looked up once, and kept in a place of its own.
    let mut seen = [([0; 4], empty); 256];
    for row in 0..picture.height() {
        picture.read_row(row, &mut tiles, |column, pixel| {
            let slot = &mut seen[slot_of(pixel)];
            if slot.0 != pixel {
                let kind = match known.iter().find(|known| is_opaque(pixel, known.colour)) {
                    _ if pixel[3] == 0 => empty,
                    Some(known) => known.kind,
                    None => {
                        unknown.entry(pixel).or_insert((column, row, 0)).2 += 1;
                        return empty;
                    }
                };
                *slot = (pixel, kind);
            }
            slot.1
        });
        if unknown.len() > MOST_COLOURS {
            let (colours, height) = (known.len(), picture.height());
            return Err(vec![format!(
                "this looks like an image of the level, not like a map: it has {width} x {height} px, more than \
                 {MOST_COLOURS} colours, and map.colours has {colours}; one pixel is one tile"
            )]);
        }
    }
    if unknown.is_empty() {
        return Ok((width, tiles));
    }
    let mut messages: Vec<_> =
        unknown.into_iter().map(|(pixel, found)| (found, unknown_colour(pixel, found, &known))).collect();
    messages.sort_by_key(|((column, row, _), _)| (*row, *column));
    Err(messages.into_iter().map(|(_, message)| message).collect())
}

/// Spreads colours over 256 slots: the high bits of a product with an odd number near 2^32 over the golden ratio.
fn slot_of(pixel: Pixel) -> usize {
    (u32::from_le_bytes(pixel).wrapping_mul(0x9e37_79b9) >> 24) as usize
}

/// Whether a pixel is of this colour, and nothing shines through.
fn is_opaque(pixel: Pixel, colour: [u8; 3]) -> bool {
    pixel == [colour[0], colour[1], colour[2], 255]
}

fn kind_of(letter: char, letters: &[LetterKind]) -> u8 {
    letters.iter().position(|known| known.letter == letter).expect("a known letter") as u8
}

fn known_colours(colours: &[(String, char)], letters: &[LetterKind]) -> Result<Vec<Known>, Vec<String>> {
    let read = |(word, letter): &(String, char)| {
        let digits = word.get(1..).filter(|_| is_colour(word));
        let number = digits
            .and_then(|digits| u32::from_str_radix(digits, 16).ok())
            .ok_or_else(|| format!("\"{word}\" in map.colours is no colour; it must be of the form \"#8c4a2f\""))?;
        let [_, red, green, blue] = number.to_be_bytes();
        Ok(Known { colour: [red, green, blue], letter: *letter, kind: kind_of(*letter, letters) })
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

    /// Adds what each pixel of a row, with its column, stands for.
    fn read_row(&self, row: usize, tiles: &mut Vec<u8>, kind: impl FnMut(usize, Pixel) -> u8) {
        let long = self.width * self.bytes_a_pixel();
        let bytes = &self.bytes[row * long..(row + 1) * long];
        match self.colours {
            ColorType::Grayscale => read(bytes, tiles, |[grey]| [grey, grey, grey, 255], kind),
            ColorType::GrayscaleAlpha => read(bytes, tiles, |[grey, opaque]| [grey, grey, grey, opaque], kind),
            ColorType::Rgb => read(bytes, tiles, |[red, green, blue]| [red, green, blue, 255], kind),
            ColorType::Rgba | ColorType::Indexed => read(bytes, tiles, |pixel: Pixel| pixel, kind),
        }
    }
}

fn read<const BYTES: usize>(
    bytes: &[u8],
    tiles: &mut Vec<u8>,
    pixel: impl Fn([u8; BYTES]) -> Pixel,
    mut kind: impl FnMut(usize, Pixel) -> u8,
) {
    tiles.extend(bytes.as_chunks().0.iter().enumerate().map(|(column, bytes)| kind(column, pixel(*bytes))));
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

fn unknown_colour(pixel: Pixel, (column, row, count): (usize, usize, usize), known: &[Known]) -> String {
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
        |colour: [u8; 3]| -> u32 { colour.iter().zip(&pixel).map(|(a, b)| u32::from(a.abs_diff(*b)).pow(2)).sum() };
    match known.iter().min_by_key(|known| away(known.colour)) {
        Some(Known { colour, letter, .. }) => words + &format!("the nearest is {} = \"{letter}\"", name(*colour)),
        None => words + "it has none: say what it stands for, such as colours = { \"#8c4a2f\" = \"#\" }",
    }
}
