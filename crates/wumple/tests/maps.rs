//! Maps from other hands: CSV and PNG; and what a game notes beside the things of a level.

use std::fs;

use proptest::prelude::*;
use wumple::{FileError, Level, Piece, Side, Terrain, ZoneId, ZoneKind, ZoneOf};

/// A folder with a level and the file that its map is in.
struct Folder(tempfile::TempDir);

impl Folder {
    fn with(map: &str, file: &str, contents: &[u8]) -> Folder {
        let folder = tempfile::tempdir().unwrap();
        fs::write(folder.path().join(file), contents).unwrap();
        fs::write(folder.path().join("l.level.toml"), format!("[map]\n{map}\n")).unwrap();
        Folder(folder)
    }

    fn read(&self) -> Result<Level, String> {
        let path = self.0.path().join("l.level.toml");
        let plain = |text: String| text.replace(&format!("{}/", self.0.path().display()), "");
        Level::read(&path).map_err(|error| match error {
            FileError::Wrong(errors) => plain(errors.to_string()),
            other => plain(other.to_string()),
        })
    }
}

/// The map as rows of letters.
fn rows(level: &Level) -> Vec<String> {
    let letter = |column, row| level.letters[level.grid.kind(column, row)].letter;
    (0..level.grid.rows()).map(|row| (0..level.grid.columns()).map(|column| letter(column, row)).collect()).collect()
}

const ROOM: [&str; 3] = ["....", ".@=.", "####"];
const CODES: &str = "csv = \"room.csv\"\ncodes = { 0 = \".\", 1 = \"#\", 2 = \"=\", 9 = \"@\" }";

#[test]
fn a_csv_of_any_spreadsheet_is_a_map() {
    for text in [
        "0,0,0,0\n0,9,2,0\n1,1,1,1\n",
        "0,0,0,0\r\n0,9,2,0\r\n1,1,1,1",
        "\u{feff}0;0;0;0\r\n0;9;2;0\r\n1;1;1;1\r\n",
        "0\t0\t0\t0\n0\t9\t2\t0\n1\t1\t1\t1\n",
        "\"0\",\"0\",\"0\",\"0\"\n0, 9 ,2,0\n1,1,\"1\",1\n",
        ",,,\n,@,=,\n#,#,#,#\n",
        ".,.,.,.\n0,@,2,0\n#,1,#,1\n",
    ] {
        let level = Folder::with(CODES, "room.csv", text.as_bytes()).read().expect(text);
        assert_eq!(rows(&level), ROOM, "{text}");
        assert_eq!(level.spawn_tile, (1, 1));
    }
    let minus = "csv = \"room.csv\"\ncodes = { -1 = \".\", \"a b\" = \"#\", 9 = \"@\" }";
    assert_eq!(rows(&Folder::with(minus, "room.csv", b"-1,9\na b,a b\n").read().unwrap()), [".@", "##"]);
}

#[test]
fn a_wrong_csv_says_which_cell() {
    let table: [(&str, &str, &str); 12] = [
        (
            CODES,
            "9,0\n0,7\n",
            "room.csv:2:3: unknown code \"7\", which is no letter of the map either; map.codes has \"0\", \"1\", \"2\", \"9\"",
        ),
        (
            "csv = \"room.csv\"",
            "@,wall,wall\n",
            "room.csv:1:3: unknown code \"wall\" (in 2 cells), which is no letter of the map either; map.codes says what codes stand for, such as codes = { 1 = \"#\" }",
        ),
        (CODES, "0,9\n1,1,1\n", "room.csv:2:1: row 1 has 3 letters where row 0 has 2; all rows must be of one length"),
        (
            CODES,
            "0,9,1\n1,1\n0,0\n1,1\n",
            "room.csv:1:1: row 0 has 3 letters where row 1 has 2; all rows must be of one length",
        ),
        (
            CODES,
            "9,0\n-1,-1\n",
            "room.csv:2:1: unknown code \"-1\" (in 2 cells), which is no letter of the map either; where it stands for an empty cell, say so: codes = { \"-1\" = \".\" }",
        ),
        (
            CODES,
            "left,middle\n9,0\n1,1\n",
            "room.csv:1:1: this row looks like a head line; a map has none: every row is a row of tiles",
        ),
        (CODES, "0,0\n1,1\n", "room.csv:1:1: the map has no spawn; put one \"@\" where the character starts"),
        (
            CODES,
            "9,0\n1,9\n",
            "room.csv:2:3: a second spawn at column 1, row 1; the first is at column 0, row 0: keep one \"@\"",
        ),
        (CODES, "", "room.csv:1:1: the map has no rows; a cell is a tile"),
        (
            "csv = \"room.csv\"\ncodes = { 1 = \"Q\" }",
            "@\n",
            "l.level.toml:3:15: unknown letter \"Q\"; there is \".\", \"#\", \"=\", \"H\", \"/\", \"\\\", \"@\", \"^\", \"*\", \"!\", \"+\", and [letters] may add others",
        ),
        (
            "csv = \"room.csv\"\ncodes = { 1 = \"##\" }",
            "@\n",
            "l.level.toml:3:15: map.codes.1 is \"##\"; it must be one letter, such as \"#\"",
        ),
        ("csv = \"other.csv\"", "@\n", "l.level.toml:2:7: other.csv: No such file or directory (os error 2)"),
    ];
    for (map, text, message) in table {
        assert_eq!(Folder::with(map, "room.csv", text.as_bytes()).read().expect_err(message), message);
    }
}

#[test]
fn a_map_is_found_in_the_levels_folder_and_is_a_file() {
    let table = [
        ("csv = \"../room.csv\"", "is outside"),
        ("png = \"/dev/zero\"", "map.png is \"/dev/zero\"; its name must end in .png"),
        ("csv = \"/etc/passwd\"", "map.csv is \"/etc/passwd\"; its name must end in .csv"),
        ("csv = \"folder.csv\"", "is a folder, not a file"),
        #[cfg(unix)]
        ("csv = \"linked.csv\"", "is outside"),
        #[cfg(unix)]
        ("csv = \"device.csv\"", "is a device or a pipe, not a file"),
    ];
    for (map, expected) in table {
        let outer = tempfile::tempdir().unwrap();
        let folder = outer.path().join("levels");
        std::fs::create_dir_all(folder.join("folder.csv")).unwrap();
        std::fs::write(outer.path().join("room.csv"), "@,secret\n").unwrap();
        #[cfg(unix)]
        {
            std::os::unix::fs::symlink("../room.csv", folder.join("linked.csv")).unwrap();
            std::os::unix::fs::symlink("/dev/zero", folder.join("device.csv")).unwrap();
        }
        let level = folder.join("l.level.toml");
        std::fs::write(&level, format!("[map]\n{map}\n")).unwrap();
        let said = Level::read(&level).unwrap_err().to_string();
        assert!(said.contains(expected) && !said.contains("secret"), "{map}: {said}");
        if expected == "is outside" {
            let said = Level::read_within(&level, outer.path()).unwrap_err().to_string();
            assert!(said.contains("unknown code \"secret\""), "asked for, it is read: {said}");
        }
    }
}

#[test]
fn the_cell_is_found_whatever_ends_a_line() {
    for end in ["\n", "\r\n"] {
        let text = ["9,0", "", "0,7", ""].join(end);
        let said = Folder::with(CODES, "room.csv", text.as_bytes()).read().unwrap_err();
        assert!(said.starts_with("room.csv:3:3: unknown code \"7\""), "{said}");
    }
}

#[test]
fn a_map_comes_from_one_place() {
    let table = [
        ("rows = '@'\ncsv = \"room.csv\"", "l.level.toml:3:7: [map] has \"rows\", \"csv\"; keep one of them"),
        (
            "rows = '@'\ncodes = { 1 = \"#\" }",
            "l.level.toml:3:9: map.codes goes with map.csv = \"room.csv\", which is not there",
        ),
        (
            "csv = \"room.csv\"\ncolours = { \"#ffffff\" = \"#\" }",
            "l.level.toml:3:11: map.colours goes with map.png = \"room.png\", which is not there",
        ),
        (
            "",
            "l.level.toml:1:1: [map] has no \"rows\"; they are the tiles, a letter each, in ''' quotes (or \"csv\" or \"png\" names a file)",
        ),
    ];
    for (map, message) in table {
        assert_eq!(Folder::with(map, "room.csv", b"@\n").read().expect_err(message), message);
    }
}

const COLOURS: &str = "png = \"room.png\"\ncolours = { \"#ffffff\" = \".\", \"#8C4A2F\" = \"#\", \"#2b4c8c\" = \"=\", \"#000000\" = \"@\" }";

fn colour(letter: char) -> [u8; 3] {
    match letter {
        '.' => [255, 255, 255],
        '#' => [0x8c, 0x4a, 0x2f],
        '=' => [0x2b, 0x4c, 0x8c],
        _ => [0, 0, 0],
    }
}

/// A picture of some rows, as bytes of a kind of PNG.
fn picture(rows: &[&str], kind: png::ColorType, depth: png::BitDepth) -> Vec<u8> {
    let (width, height) = (rows[0].len() as u32, rows.len() as u32);
    let letters = || rows.iter().flat_map(|row| row.chars());
    let palette: Vec<char> = vec!['.', '#', '=', '@'];
    let mut bytes = Vec::new();
    let mut encoder = png::Encoder::new(&mut bytes, width, height);
    encoder.set_color(kind);
    encoder.set_depth(depth);
    let data: Vec<u8> = match (kind, depth) {
        (png::ColorType::Indexed, png::BitDepth::Eight) => {
            encoder.set_palette(palette.iter().flat_map(|letter| colour(*letter)).collect::<Vec<u8>>());
            letters().map(|letter| palette.iter().position(|known| *known == letter).unwrap() as u8).collect()
        }
        (png::ColorType::Indexed, _) => {
            encoder.set_palette(palette.iter().flat_map(|letter| colour(*letter)).collect::<Vec<u8>>());
            let index = |letter: char| palette.iter().position(|known| *known == letter).unwrap() as u8;
            // Four pixels a byte.
            rows.iter().map(|row| row.chars().fold(0, |byte, letter| byte << 2 | index(letter))).collect()
        }
        (png::ColorType::Rgba, _) => letters()
            .flat_map(|letter| {
                if letter == '.' {
                    [9, 9, 9, 0]
                } else {
                    let [r, g, b] = colour(letter);
                    [r, g, b, 255]
                }
            })
            .collect(),
        (_, png::BitDepth::Sixteen) => {
            letters().flat_map(|letter| colour(letter).map(|part| [part, part])).flatten().collect()
        }
        _ => letters().flat_map(colour).collect(),
    };
    encoder.write_header().unwrap().write_image_data(&data).unwrap();
    bytes
}

#[test]
fn a_picture_of_any_kind_is_a_map() {
    use png::{BitDepth, ColorType};
    for (kind, depth) in [
        (ColorType::Rgb, BitDepth::Eight),
        (ColorType::Rgb, BitDepth::Sixteen),
        (ColorType::Rgba, BitDepth::Eight),
        (ColorType::Indexed, BitDepth::Eight),
        (ColorType::Indexed, BitDepth::Two),
    ] {
        let level = Folder::with(COLOURS, "room.png", &picture(&ROOM, kind, depth)).read();
        let level = level.unwrap_or_else(|error| panic!("{kind:?} {depth:?}: {error}"));
        assert_eq!(rows(&level), ROOM, "{kind:?} {depth:?}");
    }
}

#[test]
fn an_unknown_colour_names_its_pixel_and_the_nearest_known() {
    let plain = |rows: &[&str]| picture(rows, png::ColorType::Rgb, png::BitDepth::Eight);
    let without_brown = COLOURS.replace("\"#8C4A2F\"", "\"#8c4a30\"");
    let table: [(&str, Vec<u8>, &str); 6] = [
        (
            &without_brown,
            plain(&ROOM),
            "l.level.toml:2:7: room.png: the pixel at column 0, row 2 is #8c4a2f (like 3 more), which no colour of map.colours is; the nearest is #8c4a30 = \"#\"",
        ),
        (
            "png = \"room.png\"",
            plain(&["@"]),
            "l.level.toml:2:7: room.png: the pixel at column 0, row 0 is #000000, which no colour of map.colours is; it has none: say what it stands for, such as colours = { \"#8c4a2f\" = \"#\" }",
        ),
        (
            COLOURS,
            plain(&["..", "##"]),
            "l.level.toml:2:7: room.png: the map has no spawn; put one \"@\" where the character starts",
        ),
        (
            COLOURS,
            plain(&["@@"]),
            "l.level.toml:2:7: room.png: a second spawn at column 1, row 0; the first is at column 0, row 0: keep one \"@\"",
        ),
        (
            "png = \"room.png\"\ncolours = { brown = \"#\" }",
            plain(&["@"]),
            "l.level.toml:2:7: room.png: \"brown\" in map.colours is no colour; it must be of the form \"#8c4a2f\"",
        ),
        (
            COLOURS,
            b"no picture".to_vec(),
            "l.level.toml:2:7: room.png: this is no PNG that can be read: Invalid PNG signature.",
        ),
    ];
    for (map, bytes, message) in table {
        assert_eq!(Folder::with(map, "room.png", &bytes).read().expect_err(message), message);
    }
}

#[test]
fn a_picture_that_claims_to_be_huge_is_refused_before_it_is_read() {
    let mut bytes = Vec::new();
    let mut encoder = png::Encoder::new(&mut bytes, 60_000, 50_000);
    encoder.set_color(png::ColorType::Rgba);
    let mut writer = encoder.write_header().unwrap();
    writer.write_chunk(png::chunk::IDAT, &[0x78, 0x9c]).unwrap();
    drop(writer);
    let message =
        "l.level.toml:2:7: room.png: the picture has 60000 x 50000 pixels; a map may have 20000000 tiles, a pixel each";
    assert_eq!(Folder::with(COLOURS, "room.png", &bytes).read().unwrap_err(), message);
}

/// An image of the level instead of a map of it: told as such, and not colour by colour.
#[test]
fn an_image_of_the_level_is_told_as_such() {
    let (width, height) = (48, 30);
    let mut bytes = Vec::new();
    let mut encoder = png::Encoder::new(&mut bytes, width, height);
    encoder.set_color(png::ColorType::Rgb);
    let pixels: Vec<u8> = (0..width * height).flat_map(|n| [n as u8, (n / 7) as u8, 200]).collect();
    encoder.write_header().unwrap().write_image_data(&pixels).unwrap();
    assert_eq!(
        Folder::with(COLOURS, "room.png", &bytes).read().unwrap_err(),
        "l.level.toml:2:7: room.png: this looks like an image of the level, not like a map: it has 48 x 30 px, more than \
         32 colours, and map.colours has 4; one pixel is one tile"
    );
}

proptest! {
    #[test]
    fn no_bytes_make_the_readers_panic(bytes in prop::collection::vec(any::<u8>(), 0..200), cut in 0usize..400, flip: u8) {
        let _ = Folder::with(CODES, "room.csv", &bytes).read();
        let _ = Folder::with(COLOURS, "room.png", &bytes).read();
        let mut picture = picture(&ROOM, png::ColorType::Rgb, png::BitDepth::Eight);
        let place = cut % picture.len();
        picture[place] ^= flip;
        let _ = Folder::with(COLOURS, "room.png", &picture).read();
        picture.truncate(place);
        let _ = Folder::with(COLOURS, "room.png", &picture).read();
    }
}

/// What a game writes beside things for itself is handed out by place, and by the zone of an event.
#[test]
fn notes_are_handed_out_as_they_are_written() {
    let text = "[letters]\n'*' = { zone = 'pickup', notes = { points = 5, sound = 'clink' } }\n'/' = { surface = 'ramp', \
                left_height = 0, right_height = 16, notes = { steep = true } }\n\
                [[block]]\nat = [160, 0]\nsize = [8, 8]\n[[block]]\nat = [176, 0]\nsize = [8, 8]\nnotes = { hollow = true }\n\
                [[ramp]]\nfrom = [200, 0]\nto = [210, 4]\nnotes = { number = 1 }\n\
                [[platform]]\nsize = [8, 4]\nroute = [[220, 0]]\nnotes = { number = 2 }\nzone = 'goal'\n\
                [[prop]]\nat = [0, 16]\nsize = [4, 4]\n[prop.notes]\nnumber = -3.5\n\
                [[zone]]\nkind = 'goal'\nat = [16, 16]\nsize = [4, 4]\nnotes = { leads_to = 'kiln-2' }\n\
                [map]\nrows = \"\"\"\n..@*\n.../\n####\n\"\"\"\n";
    let level = Level::parse("l.level.toml", text).unwrap();
    let tile = |column, row| level.notes_of(Piece::Tile { column, row });
    assert_eq!((tile(3, 0).number("points"), tile(3, 0).text("sound")), (Some(5.0), Some("clink")));
    assert_eq!((tile(3, 0).flag("points"), tile(3, 0).get("weight")), (None, None));
    assert_eq!(tile(3, 0).iter().map(|(name, _)| name).collect::<Vec<_>>(), ["points", "sound"]);
    assert_eq!(tile(3, 1).flag("steep"), Some(true));
    for (column, row) in [(0, 0), (2, 0), (-1, 0), (0, -1), (4, 0), (0, 3), (i32::MAX, i32::MIN)] {
        assert!(tile(column, row).is_empty(), "{column}, {row}");
    }
    assert!(level.notes_of(Piece::Block(0)).is_empty());
    assert_eq!(level.notes_of(Piece::Block(1)).flag("hollow"), Some(true));
    let numbers = [Piece::Ramp(0), Piece::Platform(0), Piece::Prop(0), Piece::Prop(1), Piece::Edge(Side::Left)];
    let numbers = numbers.map(|piece| level.notes_of(piece).number("number"));
    assert_eq!(numbers, [Some(1.0), Some(2.0), Some(-3.5), None, None]);

    let of_zone = |kind, of| level.notes_of_zone(ZoneId { kind, of });
    let tile = ZoneOf::Tile { column: 3, row: 0 };
    assert_eq!(of_zone(ZoneKind::Pickup, tile).number("points"), Some(5.0));
    assert_eq!(of_zone(ZoneKind::Goal, ZoneOf::Drawn(0)).text("leads_to"), Some("kiln-2"));
    assert_eq!(of_zone(ZoneKind::Goal, ZoneOf::Platform(0)).number("number"), Some(2.0));
    assert!(of_zone(ZoneKind::Goal, ZoneOf::Drawn(1)).is_empty());
    assert!(of_zone(ZoneKind::Goal, ZoneOf::Any).is_empty());
}
