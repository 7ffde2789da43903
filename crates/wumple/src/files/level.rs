use std::ops::Range;
use std::path::Path;

use toml_edit::Document;
use wumple_core::{
    Block, Bounce, DVec2, Edge, Edges, Grid, GridError, LIMIT_LENGTH, LIMIT_SPEED, Material, Ramp, StartError, Surface,
    Terrain, TileProperties, Tuning, World, Zone,
};

use super::diagnostic::{Diagnostic, Diagnostics, Notes};
use super::disk::{FileError, read_text};
use super::reader::{self, Places, Section, listed, nearest};
use super::tuning::{TuningFile, file_stem, read_release};
use crate::quantity::{Kind, Scale};

/// A `*.level.toml` file: a map of letters, what they stand for, and what lies outside.
#[derive(Clone, Debug)]
pub struct Level {
    /// The level's name; the file's if it has none.
    pub name: String,
    /// The map.
    pub grid: Grid,
    /// What each letter of the map stands for; a tile of the grid is an index into these.
    pub letters: Vec<LetterKind>,
    /// The names of the blocks: their ids, or their numbers in the file, from 1.
    pub block_names: Vec<String>,
    /// The column and row of the spawn.
    pub spawn_tile: (usize, usize),
    spawn_place: Diagnostic,
}

/// A letter of a map.
#[derive(Clone, Debug, PartialEq)]
pub struct LetterKind {
    /// The letter.
    pub letter: char,
    /// What it stands for.
    pub properties: TileProperties,
    /// A colour of its own, as `#rrggbb`.
    pub colour: Option<String>,
}

/// The letters that every level knows. `@` is the spawn, on an empty tile.
fn built_in(tile: f64) -> [(char, TileProperties); 10] {
    let ramp = |left_height, right_height| TileProperties::of(Surface::Ramp { left_height, right_height });
    [
        ('.', TileProperties::EMPTY),
        ('#', TileProperties::SOLID),
        ('=', TileProperties::ONE_WAY),
        ('H', TileProperties::LADDER),
        ('/', ramp(0.0, tile)),
        ('\\', ramp(tile, 0.0)),
        ('@', TileProperties::EMPTY),
        ('^', TileProperties::zone(Zone::Hazard)),
        ('*', TileProperties::zone(Zone::Pickup)),
        ('!', TileProperties::zone(Zone::Goal)),
    ]
}

impl Level {
    /// Reads and checks a level file.
    ///
    /// # Errors
    ///
    /// If it cannot be read; if it is not UTF-8 or not TOML; all that is wrong with it, with the places.
    pub fn read(path: &Path) -> Result<Level, FileError> {
        Ok(Level::parse(&path.display().to_string(), &read_text(path)?)?)
    }

    /// Reads and checks the text of a level file; `name` is what messages call it.
    ///
    /// # Errors
    ///
    /// Like [`Level::read`].
    pub fn parse(name: &str, text: &str) -> Result<Level, Diagnostics> {
        let mut notes = Notes::new(name, text);
        let level = reader::parse(&mut notes).and_then(|document| read(&mut notes, &document));
        notes.finish()?;
        let mut level = level.expect("no error was noted");
        if level.name.is_empty() {
            level.name = file_stem(name);
        }
        Ok(level)
    }

    /// Where a character starts: its feet at the middle of the spawn tile's bottom edge, px, y down.
    pub fn spawn(&self) -> DVec2 {
        let (column, row) = self.spawn_tile;
        let tile = self.grid.lattice().tile();
        DVec2::new((column as f64 + 0.5) * tile, (row + 1) as f64 * tile)
    }

    /// A world with one character of this tuning at the spawn.
    ///
    /// # Errors
    ///
    /// If the character does not fit there: with the place of the spawn in the level's file.
    pub fn world(&self, tuning: &Tuning) -> Result<(World<&Grid>, wumple_core::CharacterId), Diagnostic> {
        let mut world = World::new(&self.grid);
        match world.add_character(tuning.clone(), self.spawn()) {
            Ok(id) => Ok((world, id)),
            Err(error) => Err(self.spawn_place.with_message(self.spawn_message(error, tuning))),
        }
    }

    fn spawn_message(&self, error: StartError, tuning: &Tuning) -> String {
        let (column, row) = self.spawn_tile;
        let body = tuning.body();
        let size = format!("the hitbox of {} x {} px", body.width, body.height);
        let spawn = format!("spawn at column {column}, row {row}");
        match error {
            StartError::InsideTile { column, row } => {
                format!("{spawn} is inside a solid tile: {size} overlaps the one at column {column}, row {row}")
            }
            StartError::BeyondEdge(side) => {
                format!("{spawn} is inside the solid {side} edge of the map: {size} reaches beyond it")
            }
            StartError::InsideBlock { block } => {
                format!("{spawn} is inside block {}: {size} overlaps it", self.block_names[block])
            }
            other => format!("{spawn}: {other}"),
        }
    }

    /// What is odd about running this tuning here, though it is not wrong: tiles of another size.
    pub fn warning_for(&self, tuning: &TuningFile) -> Option<String> {
        let (here, there) = (self.grid.lattice().tile(), tuning.scale.tile);
        (here != there).then(|| {
            let file = self.spawn_place.file();
            format!("{file}: a tile is {here} px here but {there} px in the tuning, where \"tiles\" are of {there} px")
        })
    }
}

/// Where a row of the map stands in the file.
struct Row<'t> {
    text: &'t str,
    span: Range<usize>,
}

fn read(notes: &mut Notes, document: &Document<String>) -> Option<Level> {
    let mut top = Section::top(document, Scale { tile: 16.0, frames_per_second: 60.0 });
    top.knows(notes, &["name", "tile", "edges", "letters", "map", "block", "ramp"]);
    let name = top.text(notes, "name", "Throwing room").unwrap_or_default().to_owned();
    let tile = top.quantity(notes, "tile", Kind::Length).unwrap_or(16.0);
    if !(1.0..=4096.0).contains(&tile) {
        let message = format!("tile is {tile} px; a tile must be from 1 to 4096 px");
        notes.error(top.place_of("tile"), message);
    }
    top.set_scale(Scale { tile, frames_per_second: 60.0 });
    let edges = read_edges(notes, &top);
    let letters = read_letters(notes, &top, tile);
    let (blocks, block_names) = read_blocks(notes, &top);
    let ramps = read_ramps(notes, &top);
    let rows = read_rows(notes, &top)?;
    let tiles = tiles_of(notes, &rows, &letters);
    let (spawn_tile, spawn_span) = find_spawn(notes, &rows)?;
    if notes.has_errors() {
        return None;
    }
    let kinds: Vec<TileProperties> = letters.iter().map(|kind| kind.properties).collect();
    let columns = rows[0].text.chars().count();
    let grid = Grid::new(columns, tiles, tile, &kinds, edges).and_then(|grid| grid.with_objects(blocks, ramps));
    match grid {
        Ok(grid) => {
            let spawn_place = Diagnostic::new(notes.source(), spawn_span, String::new());
            Some(Level { name, grid, letters, block_names, spawn_tile, spawn_place })
        }
        Err(error) => {
            notes.error(rows[0].span.clone(), grid_message(&error));
            None
        }
    }
}

fn grid_message(error: &GridError) -> String {
    match error {
        GridError::TooLarge { pixels } => {
            format!("the map is {pixels} px long; it may be at most {LIMIT_LENGTH} px: fewer or smaller tiles")
        }
        other => other.to_string(),
    }
}

fn read_edges(notes: &mut Notes, top: &Section<'_>) -> Edges {
    let default = Edges::default();
    let Some(section) = top.section(notes, "edges") else { return default };
    section.knows(notes, &["left", "right", "top", "bottom"]);
    let mut edge = |key, default: Edge| section.word(notes, key, &Edge::NAMES).unwrap_or(default);
    Edges {
        left: edge("left", default.left),
        right: edge("right", default.right),
        top: edge("top", default.top),
        bottom: edge("bottom", default.bottom),
    }
}

/// The built-in letters, with those of the file added or put in their place.
fn read_letters(notes: &mut Notes, top: &Section<'_>, tile: f64) -> Vec<LetterKind> {
    let mut letters: Vec<LetterKind> =
        built_in(tile).map(|(letter, properties)| LetterKind { letter, properties, colour: None }).into();
    let Some(section) = top.section(notes, "letters") else { return letters };
    for key in section.keys() {
        let mut characters = key.chars();
        let (Some(letter), None) = (characters.next(), characters.next()) else {
            let message = format!("\"{key}\" in [letters] is not one letter; a tile is one letter of the map");
            notes.error(section.place_of(key), message);
            continue;
        };
        if letter == '@' || letter.is_whitespace() {
            let message =
                format!("\"{key}\" in [letters] cannot be changed; \"@\" is the spawn and spaces are no tiles");
            notes.error(section.place_of(key), message);
            continue;
        }
        let Some(kind) = section.section(notes, key) else { continue };
        let kind = read_letter(notes, &kind, letter, tile);
        match letters.iter_mut().find(|known| known.letter == letter) {
            Some(known) => *known = kind,
            None => letters.push(kind),
        }
    }
    if letters.len() > 256 {
        notes.error(section.span(), format!("there are {} letters; a level may have 256", letters.len()));
    }
    letters
}

fn read_letter(notes: &mut Notes, section: &Section<'_>, letter: char, tile: f64) -> LetterKind {
    #[derive(Clone, Copy)]
    enum Word {
        Plain(Surface),
        Ramp,
    }
    const COMMON: [&str; 6] = ["surface", "zone", "colour", "grip", "surface_speed", "bounce"];
    let words = [
        ("solid", Word::Plain(Surface::Solid)),
        ("one-way", Word::Plain(Surface::OneWay)),
        ("ladder", Word::Plain(Surface::Ladder)),
        ("ramp", Word::Ramp),
        ("empty", Word::Plain(Surface::Empty)),
    ];
    let surface = match section.word(notes, "surface", &words) {
        Some(Word::Ramp) => {
            section.knows(notes, &[&COMMON[..], &["left_height", "right_height"]].concat());
            let mut height = |key| read_ramp_height(notes, section, key, tile);
            Surface::Ramp { left_height: height("left_height"), right_height: height("right_height") }
        }
        Some(Word::Plain(surface)) => {
            section.knows(notes, &COMMON);
            surface
        }
        None => {
            section.knows(notes, &COMMON);
            Surface::Empty
        }
    };
    let zones = Zone::ALL.map(|zone| (zone.name(), zone));
    let zone = section.word(notes, "zone", &zones);
    let colour = section.text(notes, "colour", "#9aa7a0").map(str::to_owned);
    if let Some(colour) = colour.as_deref().filter(|colour| !is_colour(colour)) {
        let message = format!("\"{colour}\" is no colour; it must be of the form \"#9aa7a0\"");
        notes.error(section.place_of("colour"), message);
    }
    let material = read_material(notes, section);
    let stands = !matches!(surface, Surface::Empty);
    for key in ["grip", "surface_speed", "bounce"].into_iter().filter(|key| !stands && section.has(key)) {
        let message = format!("{} is of no use: \"{letter}\" is empty, nothing stands on it", section.name_of(key));
        notes.error(section.place_of(key), message);
    }
    LetterKind { letter, properties: TileProperties { surface, zone, material }, colour }
}

fn read_ramp_height(notes: &mut Notes, section: &Section<'_>, key: &str, tile: f64) -> f64 {
    let height = section.needed(notes, key, Kind::Length);
    if !(0.0..=tile).contains(&height) && !height.is_nan() {
        let message =
            format!("{} is {height} px; it must be from 0 to {tile} px, the side of a tile", section.name_of(key));
        notes.error(section.place_of(key), message);
    }
    height
}

/// Grip, surface speed and bounce of a top.
fn read_material(notes: &mut Notes, section: &Section<'_>) -> Material {
    let mut within = |key: &str, kind, default: f64, least: f64, most: f64, unit: &str| {
        let Some(found) = section.quantity(notes, key, kind) else { return default };
        if !(least..=most).contains(&found) {
            let message = format!("{} is {found}{unit}; it must be from {least} to {most}{unit}", section.name_of(key));
            notes.error(section.place_of(key), message);
        }
        found
    };
    let grip = within("grip", Kind::Number, 1.0, 0.0, Material::MOST_GRIP, "");
    let surface_speed = within("surface_speed", Kind::Speed, 0.0, -LIMIT_SPEED, LIMIT_SPEED, " px/s");
    let bounce = section.section(notes, "bounce").map(|bounce| read_bounce(notes, &bounce));
    Material { grip, surface_speed, bounce }
}

fn read_bounce(notes: &mut Notes, section: &Section<'_>) -> Bounce {
    section.knows(notes, &["height", "release"]);
    let height = section.needed(notes, "height", Kind::Length);
    if height <= 0.0 || height > LIMIT_LENGTH {
        let message =
            format!("{} is {height} px; it must be above 0 and at most {LIMIT_LENGTH} px", section.name_of("height"));
        notes.error(section.place_of("height"), message);
    }
    let release = read_release(notes, section, "release", &mut Places::new()).unwrap_or_default();
    if !release.is_within_bounds() {
        let name = section.name_of("release");
        let message = format!(
            "{name} is out of bounds: keep is from 0 to 1, gravity_ratio above 0, times and heights not below 0"
        );
        notes.error(section.place_of("release"), message);
    }
    Bounce { height, release }
}

/// The `[[block]]` tables, and the blocks' names.
fn read_blocks(notes: &mut Notes, top: &Section<'_>) -> (Vec<Block>, Vec<String>) {
    let (mut blocks, mut names) = (Vec::new(), Vec::<String>::new());
    for (index, section) in top.sections(notes, "block").iter().enumerate() {
        section.knows(notes, &["id", "at", "size", "grip", "surface_speed", "bounce"]);
        let (left, top) = section.needed_pair(notes, "at", Kind::Length);
        let (width, height) = section.needed_pair(notes, "size", Kind::Length);
        if width <= 0.0 || height <= 0.0 {
            let message = format!("{} is {width} x {height} px; both must be above 0", section.name_of("size"));
            notes.error(section.place_of("size"), message);
        }
        if [left, top, left + width, top + height].into_iter().any(|place| place.abs() > LIMIT_LENGTH) {
            let message = format!("{} is beyond where coordinates end, {LIMIT_LENGTH} px", section.name_of("at"));
            notes.error(section.place_of("at"), message);
        }
        let id = section.text(notes, "id", "bench").map_or_else(|| (index + 1).to_string(), str::to_owned);
        if !id.chars().all(|letter| letter.is_alphanumeric() || "-_".contains(letter)) || id.is_empty() {
            let message = format!("\"{id}\" is no id; it may have letters, digits, \"-\" and \"_\"");
            notes.error(section.place_of("id"), message);
        } else if names.contains(&id) {
            let message = format!("there is another block \"{id}\"; each id must be its own");
            notes.error(section.place_of("id"), message);
        }
        names.push(id);
        let material = read_material(notes, section);
        blocks.push(Block { material, ..Block::new(DVec2::new(left, top), width, height) });
    }
    (blocks, names)
}

/// The `[[ramp]]` tables.
fn read_ramps(notes: &mut Notes, top: &Section<'_>) -> Vec<Ramp> {
    let mut ramps = Vec::new();
    for section in top.sections(notes, "ramp") {
        section.knows(notes, &["from", "to", "grip", "surface_speed", "bounce"]);
        let from = section.needed_pair(notes, "from", Kind::Length);
        let to = section.needed_pair(notes, "to", Kind::Length);
        let material = read_material(notes, &section);
        for (key, point) in [("from", from), ("to", to)] {
            if point.0.abs() > LIMIT_LENGTH || point.1.abs() > LIMIT_LENGTH {
                let message = format!("{} is beyond where coordinates end, {LIMIT_LENGTH} px", section.name_of(key));
                notes.error(section.place_of(key), message);
            }
        }
        match Ramp::new(DVec2::new(from.0, from.1), DVec2::new(to.0, to.1)) {
            Some(mut ramp) => {
                ramp.material = material;
                ramps.push(ramp);
            }
            None if from.0.is_nan() || to.0.is_nan() => {}
            None => {
                let message = "a ramp from one place straight up or down is a wall; its ends need different columns";
                notes.error(section.place_of("to"), message);
            }
        }
    }
    ramps
}

fn is_colour(text: &str) -> bool {
    text.strip_prefix('#').is_some_and(|digits| digits.len() == 6 && digits.bytes().all(|b| b.is_ascii_hexdigit()))
}

fn read_rows<'d>(notes: &mut Notes, top: &Section<'d>) -> Option<Vec<Row<'d>>> {
    if !top.has("map") {
        notes.error(0..0, "the section [map] is missing; its \"rows\" are the tiles, a letter each");
    }
    let map = top.section(notes, "map")?;
    map.knows(notes, &["rows"]);
    if !map.has("rows") {
        notes.error(map.span(), "[map] has no \"rows\"; they are the tiles, a letter each, in ''' quotes");
    }
    let text = map.text(notes, "rows", "@..\\n###")?;
    let rows = split_rows(text, map.place_of("rows"), notes.text());
    if rows.is_empty() {
        notes.error(map.place_of("rows"), "the map has no rows; draw it in letters, such as \".\" and \"#\"");
        return None;
    }
    Some(rows)
}

/// The lines of the map, each with its place: exact where the text stands in the file as it is, which it
/// does in ''' quotes.
fn split_rows<'t>(text: &'t str, span: Range<usize>, file: &str) -> Vec<Row<'t>> {
    let start = file[span.clone()].find(text).map(|at| span.start + at);
    let mut at = start;
    let mut rows = Vec::new();
    for line in text.split_inclusive('\n') {
        let row = line.trim_end();
        let row_span = at.map_or(span.clone(), |at| at..at + row.len());
        rows.push(Row { text: row, span: row_span });
        at = at.map(|at| at + line.len());
    }
    let filled = |row: &Row<'_>| !row.text.is_empty();
    let end = rows.iter().rposition(filled).map_or(0, |last| last + 1);
    let first = rows.iter().position(filled).unwrap_or(0);
    rows.truncate(end);
    rows.drain(..first);
    rows
}

fn tiles_of(notes: &mut Notes, rows: &[Row<'_>], letters: &[LetterKind]) -> Vec<u8> {
    let columns = rows[0].text.chars().count();
    let mut tiles = Vec::new();
    for (number, row) in rows.iter().enumerate() {
        let found = row.text.chars().count();
        if found != columns {
            let message =
                format!("row {number} has {found} letters where row 0 has {columns}; all rows must be of one length");
            notes.error(row.span.clone(), message);
        }
        for (at, letter) in row.text.char_indices() {
            match letters.iter().position(|kind| kind.letter == letter) {
                Some(kind) => tiles.push(kind as u8),
                None => note_unknown_letter(notes, row, at, letter, letters),
            }
        }
    }
    tiles
}

fn note_unknown_letter(notes: &mut Notes, row: &Row<'_>, at: usize, letter: char, letters: &[LetterKind]) {
    let exact = row.span.len() == row.text.len();
    let span = if exact { row.span.start + at..row.span.start + at + letter.len_utf8() } else { row.span.clone() };
    let known: Vec<String> = letters.iter().map(|kind| kind.letter.to_string()).collect();
    let same = nearest(&letter.to_string(), known.iter().map(String::as_str));
    let known = same.map_or(listed(known.iter().map(String::as_str)), |same| format!("\"{same}\""));
    let message = format!("unknown letter \"{letter}\"; there is {known}, and [letters] may add others");
    notes.error(span, message);
}

fn find_spawn(notes: &mut Notes, rows: &[Row<'_>]) -> Option<((usize, usize), Range<usize>)> {
    let mut spawn = None;
    for (number, row) in rows.iter().enumerate() {
        for (column, (at, _)) in row.text.char_indices().enumerate().filter(|(_, (_, letter))| *letter == '@') {
            let exact = row.span.len() == row.text.len();
            let span = if exact { row.span.start + at..row.span.start + at + 1 } else { row.span.clone() };
            match spawn {
                None => spawn = Some(((column, number), span)),
                Some(((first_column, first_row), _)) => {
                    let message = format!(
                        "a second spawn at column {column}, row {number}; the first is at column {first_column}, \
                         row {first_row}: keep one \"@\""
                    );
                    notes.error(span, message);
                }
            }
        }
    }
    if spawn.is_none() {
        notes.error(rows[0].span.clone(), "the map has no spawn; put one \"@\" where the character starts");
    }
    spawn
}
