//! The sheet that figures are drawn on: colours, strokes, text, and the page's frame.
//!
//! plotters writes the SVG. Its coordinates are whole numbers, so everything is drawn at sixteen times
//! the size, and the page shrinks it back.

use std::sync::LazyLock;

use plotters::backend::DrawingBackend;
use plotters::prelude::{FontStyle, IntoFont, RGBColor, SVGBackend};
use plotters::style::text_anchor::{HPos, Pos, VPos};
use plotters::style::{Color, ShapeStyle, TextStyle};

use super::Figure;

/// The font of all figures.
#[allow(non_upper_case_globals)]
pub(super) const FONT: fn() -> &'static [u8] = dejavu::sans::regular;
pub(super) const FONT_NAME: &str = "DejaVu Sans";

/// Sub-pixels in a pixel of the page.
const FINE: f64 = 16.0;

pub(super) type Colour = RGBColor;

pub(super) const PAPER: Colour = RGBColor(0xFB, 0xF9, 0xF4);
pub(super) const INK: Colour = RGBColor(0x22, 0x26, 0x2B);
pub(super) const SMOKE: Colour = RGBColor(0x8A, 0x8F, 0x94);
pub(super) const TERRACOTTA: Colour = RGBColor(0xB5, 0x48, 0x2A);
pub(super) const COBALT: Colour = RGBColor(0x2B, 0x4C, 0x8C);
pub(super) const CELADON: Colour = RGBColor(0x3B, 0x8A, 0x70);
pub(super) const OCHRE: Colour = RGBColor(0xB8, 0x7A, 0x10);
pub(super) const PLUM: Colour = RGBColor(0x8A, 0x3A, 0x63);

/// Each colour of the sheet, and what it is on a dark one.
const ON_DARK: [(Colour, Colour); 8] = [
    (PAPER, RGBColor(0x1C, 0x1F, 0x24)),
    (INK, RGBColor(0xE8, 0xE5, 0xDC)),
    (SMOKE, RGBColor(0x86, 0x8C, 0x93)),
    (TERRACOTTA, RGBColor(0xE8, 0x7A, 0x58)),
    (COBALT, RGBColor(0x86, 0xA8, 0xF0)),
    (CELADON, RGBColor(0x5F, 0xBF, 0x9B)),
    (OCHRE, RGBColor(0xE3, 0xAC, 0x4A)),
    (PLUM, RGBColor(0xD6, 0x7F, 0xAC)),
];

/// A drawing of ours with each colour as it is on a dark sheet.
pub(super) fn dark(svg: &str) -> String {
    // In an attribute: the words of a drawing have no quotes that are not escaped.
    let written = |RGBColor(red, green, blue): Colour| format!("\"#{red:02X}{green:02X}{blue:02X}\"");
    // One name in place of another, by way of what no colour is: some may be both.
    let marked = |index: usize| format!("\"#{index}\"");
    let mut svg = svg.to_owned();
    for (index, (light, _)) in ON_DARK.into_iter().enumerate() {
        svg = svg.replace(&written(light), &marked(index));
    }
    for (index, (_, dark)) in ON_DARK.into_iter().enumerate() {
        svg = svg.replace(&marked(index), &written(dark));
    }
    svg
}

/// The same as rules of a style sheet, for drawings on a page whose reader may like it dark.
pub(super) fn dark_style() -> String {
    let written = |RGBColor(red, green, blue): Colour| format!("#{red:02X}{green:02X}{blue:02X}");
    let rules = ON_DARK.into_iter().flat_map(|(light, dark)| {
        let (light, dark) = (written(light), written(dark));
        ["fill", "stroke"].map(|of| format!("  svg [{of}=\"{light}\"] {{ {of}: {dark}; }}\n"))
    });
    format!("@media (prefers-color-scheme: dark) {{\n{}}}\n", rules.collect::<String>())
}

/// How a series of a figure is drawn: a colour, a line and a marker.
pub(super) type Series = (Colour, Dash, Marker);

/// The series of a figure, by their number: twenty-five before a colour and a line come together again, and no two
/// neighbours share either.
pub(super) fn series(index: usize) -> Series {
    const COLOURS: [Colour; 5] = [COBALT, TERRACOTTA, CELADON, OCHRE, PLUM];
    const LINES: [(Dash, Marker); 5] = [
        (Dash::Solid, Marker::Disc),
        (Dash::Long, Marker::Square),
        (Dash::Short, Marker::Diamond),
        (Dash::LongShort, Marker::Triangle),
        (Dash::Dots, Marker::Cross),
    ];
    let (dash, marker) = LINES[(index + index / 5) % 5];
    (COLOURS[index % 5], dash, marker)
}

/// How a line is broken.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Dash {
    Solid,
    Long,
    Short,
    LongShort,
    Dots,
}

impl Dash {
    /// Lengths of strokes and gaps in turn, px.
    fn pattern(self) -> &'static [f64] {
        match self {
            Dash::Solid => &[],
            Dash::Long => &[11.0, 5.0],
            Dash::Short => &[5.0, 4.0],
            Dash::LongShort => &[11.0, 4.0, 3.0, 4.0],
            Dash::Dots => &[2.0, 3.5],
        }
    }
}

/// The shape of a point.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Marker {
    Disc,
    Square,
    Diamond,
    Triangle,
    Cross,
}

/// How a line is drawn.
#[derive(Clone, Copy, Debug)]
pub(super) struct Stroke {
    pub(super) colour: Colour,
    pub(super) width: f64,
    pub(super) opacity: f64,
    pub(super) dash: Dash,
}

pub(super) fn stroke(colour: Colour, width: f64) -> Stroke {
    Stroke { colour, width, opacity: 1.0, dash: Dash::Solid }
}

impl Stroke {
    pub(super) fn faint(self, opacity: f64) -> Stroke {
        Stroke { opacity, ..self }
    }

    pub(super) fn dashed(self, dash: Dash) -> Stroke {
        Stroke { dash, ..self }
    }

    fn style(self) -> ShapeStyle {
        let stroke_width = (self.width * FINE).round() as u32;
        ShapeStyle { color: self.colour.mix(self.opacity), filled: true, stroke_width }
    }
}

/// A point of the page, px.
pub(super) type Point = (f64, f64);

/// A box on the page, px.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Area {
    pub(super) left: f64,
    pub(super) top: f64,
    pub(super) right: f64,
    pub(super) bottom: f64,
}

impl Area {
    pub(super) fn width(&self) -> f64 {
        self.right - self.left
    }

    pub(super) fn height(&self) -> f64 {
        self.bottom - self.top
    }

    pub(super) fn overlaps(&self, other: &Area) -> bool {
        self.left < other.right && other.left < self.right && self.top < other.bottom && other.top < self.bottom
    }

    pub(super) fn contains(&self, (x, y): Point) -> bool {
        (self.left..=self.right).contains(&x) && (self.top..=self.bottom).contains(&y)
    }

    pub(super) fn grown(&self, by: f64) -> Area {
        Area { left: self.left - by, top: self.top - by, right: self.right + by, bottom: self.bottom + by }
    }
}

/// Where a text stands to its point.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Align {
    Left,
    Middle,
    Right,
}

/// What stands above and below every drawing.
pub(super) struct Words<'a> {
    pub(super) title: &'a str,
    pub(super) caption: &'a str,
}

/// A page being drawn.
pub(super) struct Sheet<'a> {
    backend: SVGBackend<'a>,
}

const WORKS: &str = "a string takes any drawing";

impl Sheet<'_> {
    /// Draws a page of the usual size: the paper, the words, and what `draw` adds.
    pub(super) fn page(words: &Words<'_>, draw: impl FnOnce(&mut Sheet<'_>)) -> Figure {
        Sheet::page_of((f64::from(Figure::WIDTH), f64::from(Figure::HEIGHT)), words, draw)
    }

    /// The same of any size, px.
    pub(super) fn page_of(size: (f64, f64), words: &Words<'_>, draw: impl FnOnce(&mut Sheet<'_>)) -> Figure {
        let (width, height) = (size.0.round(), size.1.round());
        let fine = ((width * FINE) as u32, (height * FINE) as u32);
        let mut svg = String::new();
        let mut sheet = Sheet { backend: SVGBackend::with_string(&mut svg, fine) };
        sheet.fill_area(&Area { left: 0.0, top: 0.0, right: width, bottom: height }, PAPER, 1.0);
        sheet.text((24.0, 36.0), 20.0, Align::Left, &cut(words.title, 20.0, width - 48.0));
        sheet.text((24.0, height - 18.0), 12.0, Align::Left, &cut(words.caption, 12.0, width - 48.0));
        draw(&mut sheet);
        sheet.backend.present().expect(WORKS);
        drop(sheet);
        let at_fine_size = format!("width=\"{}\" height=\"{}\"", fine.0, fine.1);
        let svg = svg.replacen(&at_fine_size, &format!("width=\"{width}\" height=\"{height}\""), 1);
        Figure { svg, size: (width as u32, height as u32) }
    }

    pub(super) fn line(&mut self, points: &[Point], stroke: Stroke) {
        let points = &thinned(points);
        if stroke.dash == Dash::Solid {
            self.path(points, stroke);
        } else {
            for dash in dashes(points, stroke.dash.pattern()) {
                self.path(&dash, stroke);
            }
        }
    }

    fn path(&mut self, points: &[Point], stroke: Stroke) {
        self.backend.draw_path(points.iter().map(|point| fine(*point)), &stroke.style()).expect(WORKS);
    }

    pub(super) fn outline(&mut self, area: &Area, stroke: Stroke) {
        let Area { left, top, right, bottom } = *area;
        self.line(&[(left, top), (right, top), (right, bottom), (left, bottom), (left, top)], stroke);
    }

    pub(super) fn fill(&mut self, points: &[Point], colour: Colour, opacity: f64) {
        let style = stroke(colour, 0.0).faint(opacity).style();
        self.backend.fill_polygon(points.iter().map(|point| fine(*point)), &style).expect(WORKS);
    }

    pub(super) fn fill_area(&mut self, area: &Area, colour: Colour, opacity: f64) {
        let style = stroke(colour, 0.0).faint(opacity).style();
        let (from, to) = (fine((area.left, area.top)), fine((area.right, area.bottom)));
        self.backend.draw_rect(from, to, &style, true).expect(WORKS);
    }

    pub(super) fn marker(&mut self, (x, y): Point, marker: Marker, size: f64, colour: Colour) {
        match marker {
            Marker::Disc => {
                let style = stroke(colour, 0.0).style();
                self.backend.draw_circle(fine((x, y)), (size * FINE).round() as u32, &style, true).expect(WORKS);
            }
            Marker::Square => {
                let side = size * 0.9;
                let area = Area { left: x - side, top: y - side, right: x + side, bottom: y + side };
                self.fill_area(&area, colour, 1.0);
            }
            Marker::Diamond => {
                let side = size * 1.25;
                self.fill(&[(x, y - side), (x + side, y), (x, y + side), (x - side, y)], colour, 1.0);
            }
            Marker::Triangle => {
                let side = size * 1.2;
                self.fill(&[(x, y - side), (x + side, y + side * 0.8), (x - side, y + side * 0.8)], colour, 1.0);
            }
            Marker::Cross => {
                let line = stroke(colour, size * 0.5);
                self.line(&[(x - size, y - size), (x + size, y + size)], line);
                self.line(&[(x - size, y + size), (x + size, y - size)], line);
            }
        }
    }

    /// Words are always in ink; the point is on their base line.
    pub(super) fn text(&mut self, point: Point, size: f64, align: Align, text: &str) {
        self.rotatable_text(point, size, align, text, false);
    }

    /// The same, reading upward.
    pub(super) fn upward_text(&mut self, point: Point, size: f64, align: Align, text: &str) {
        self.rotatable_text(point, size, align, text, true);
    }

    fn rotatable_text(&mut self, point: Point, size: f64, align: Align, text: &str, upward: bool) {
        let position = match align {
            Align::Left => HPos::Left,
            Align::Middle => HPos::Center,
            Align::Right => HPos::Right,
        };
        // plotters divides sizes by 1.24, to be nearer to its bitmaps.
        let font = (FONT_NAME, size * FINE * 1.24, FontStyle::Normal).into_font();
        let font = if upward { font.transform(plotters::style::FontTransform::Rotate270) } else { font };
        let style = TextStyle::from(font).color(&INK).pos(Pos::new(position, VPos::Bottom));
        self.backend.draw_text(text, &style, fine(point)).expect(WORKS);
    }
}

fn fine((x, y): Point) -> (i32, i32) {
    // Far outside the page nothing is seen; held so that no number overflows.
    let whole = |value: f64| (value * FINE).round().clamp(-1e6, 1e6) as i32;
    (whole(x), whole(y))
}

/// A line without the points that nobody can see: of many in a row in one upright strip of a quarter of a px, the
/// first, the last, the highest and the lowest.
fn thinned(points: &[Point]) -> Vec<Point> {
    let strip = |point: &Point| (point.0 * 4.0).floor();
    let mut kept = Vec::with_capacity(points.len().min(4096));
    for run in points.chunk_by(|a, b| strip(a) == strip(b)) {
        if run.len() <= 4 {
            kept.extend_from_slice(run);
            continue;
        }
        let by_height = |a: &&(usize, &Point), b: &&(usize, &Point)| a.1.1.total_cmp(&b.1.1);
        let numbered: Vec<(usize, &Point)> = run.iter().enumerate().collect();
        let (high, low) = (numbered.iter().min_by(by_height), numbered.iter().max_by(by_height));
        let mut places = [0, high.map_or(0, |(place, _)| *place), low.map_or(0, |(place, _)| *place), run.len() - 1];
        places.sort_unstable();
        kept.extend(places.into_iter().map(|place| run[place]));
        kept.dedup();
    }
    kept
}

/// Cuts a line into strokes after a pattern of strokes and gaps.
fn dashes(points: &[Point], pattern: &[f64]) -> Vec<Vec<Point>> {
    let mut strokes = Vec::new();
    let (mut turn, mut left) = (0, pattern[0]);
    let mut current: Vec<Point> = points.first().copied().into_iter().collect();
    for pair in points.windows(2) {
        let ((mut x, mut y), (to_x, to_y)) = (pair[0], pair[1]);
        loop {
            let length = (to_x - x).hypot(to_y - y);
            if length <= left {
                left -= length;
                current.push((to_x, to_y));
                break;
            }
            (x, y) = (x + (to_x - x) * left / length, y + (to_y - y) * left / length);
            current.push((x, y));
            if turn % 2 == 0 {
                strokes.push(std::mem::take(&mut current));
            }
            turn += 1;
            left = pattern[turn % pattern.len()];
            current = vec![(x, y)];
        }
    }
    if turn % 2 == 0 && current.len() > 1 {
        strokes.push(current);
    }
    strokes
}

/// How wide a text is in the font of the figures, px.
pub(super) fn text_width(text: &str, size: f64) -> f64 {
    static FACE: LazyLock<ttf_parser::Face<'static>> =
        LazyLock::new(|| ttf_parser::Face::parse(FONT(), 0).expect("the font that comes along"));
    let advance = |letter| FACE.glyph_index(letter).and_then(|glyph| FACE.glyph_hor_advance(glyph)).unwrap_or(0);
    let units: f64 = text.chars().map(|letter| f64::from(advance(letter))).sum();
    units * size / f64::from(FACE.units_per_em())
}

/// A text cut to a width, px.
fn cut(text: &str, size: f64, width: f64) -> String {
    if text_width(text, size) <= width {
        return text.to_owned();
    }
    let room = width - text_width(" ...", size);
    let fits = |at: &usize| text_width(&text[..*at], size) <= room;
    let ends: Vec<usize> = text.char_indices().map(|(at, _)| at).collect();
    let end = ends.partition_point(fits).saturating_sub(1);
    format!("{} ...", text[..ends[end]].trim_end())
}

/// What draws an entry's sample.
pub(super) type Sample<'a> = Box<dyn Fn(&mut Sheet<'_>, &Area) + 'a>;

/// One entry of a legend.
pub(super) struct LegendEntry<'a> {
    pub(super) words: &'a str,
    /// Draws the sample into this area.
    pub(super) sample: Sample<'a>,
}

/// A legend in one row, its right end at `right`, or in two where one is too short.
pub(super) fn legend(sheet: &mut Sheet<'_>, right: f64, base: f64, entries: &[LegendEntry<'_>]) {
    const SAMPLE: f64 = 26.0;
    const GAP: f64 = 18.0;
    const SIZE: f64 = 12.0;
    let width_of = |entry: &LegendEntry<'_>| SAMPLE + 6.0 + text_width(entry.words, SIZE) + GAP;
    let width: f64 = entries.iter().map(width_of).sum();
    if width - GAP > right - 24.0 {
        let (first, second) = entries.split_at(entries.len().div_ceil(2));
        legend(sheet, right, base - 10.0, first);
        return legend(sheet, right, base + 8.0, second);
    }
    let mut x = right - width + GAP;
    for entry in entries {
        (entry.sample)(sheet, &Area { left: x, top: base - 11.0, right: x + SAMPLE, bottom: base + 2.0 });
        sheet.text((x + SAMPLE + 6.0, base), SIZE, Align::Left, entry.words);
        x += width_of(entry);
    }
}

/// A sample of a line for a legend.
pub(super) fn line_sample<'a>(stroke: Stroke) -> Sample<'a> {
    Box::new(move |sheet, area| {
        let middle = (area.top + area.bottom) / 2.0;
        sheet.line(&[(area.left, middle), (area.right, middle)], stroke);
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn dashes_keep_to_their_pattern_across_corners() {
        let strokes = dashes(&[(0.0, 0.0), (7.0, 0.0), (7.0, 13.0)], &[5.0, 4.0]);
        assert_eq!(
            strokes,
            [vec![(0.0, 0.0), (5.0, 0.0)], vec![(7.0, 2.0), (7.0, 7.0)], vec![(7.0, 11.0), (7.0, 13.0)]]
        );
    }

    #[test]
    fn twenty_five_series_are_told_apart_and_neighbours_share_nothing() {
        let all: Vec<Series> = (0..25).map(series).collect();
        for (index, one) in all.iter().enumerate() {
            assert!(!all[index + 1..].iter().any(|other| other.0 == one.0 && other.1 == one.1), "{index}");
        }
        assert!(all.windows(2).all(|pair| pair[0].0 != pair[1].0 && pair[0].1 != pair[1].1));
    }

    /// The contrast of two colours, from 1 to 21: W3C, Web Content Accessibility Guidelines 2.2, relative luminance.
    fn contrast(one: Colour, other: Colour) -> f64 {
        let linear = |part: u8| {
            let part = f64::from(part) / 255.0;
            if part <= 0.04045 { part / 12.92 } else { ((part + 0.055) / 1.055).powf(2.4) }
        };
        let luminance = |RGBColor(red, green, blue): Colour| {
            0.2126 * linear(red) + 0.7152 * linear(green) + 0.0722 * linear(blue) + 0.05
        };
        let (one, other) = (luminance(one), luminance(other));
        one.max(other) / one.min(other)
    }

    #[test]
    fn every_colour_stands_out_from_its_paper_light_and_dark() {
        let (light, dark) = ON_DARK[0];
        assert!(contrast(INK, light) > 12.0 && contrast(ON_DARK[1].1, dark) > 12.0);
        for (colour, on_dark) in &ON_DARK[1..] {
            assert!(contrast(*colour, light) >= 3.0, "{colour:?}: {}", contrast(*colour, light));
            assert!(contrast(*on_dark, dark) >= 3.0, "{on_dark:?}: {}", contrast(*on_dark, dark));
        }
    }

    #[test]
    fn on_a_dark_sheet_every_colour_is_another_and_no_word_is() {
        let words = Words { title: "#FBF9F4 \"#22262B\"", caption: "C" };
        let page = Sheet::page(&words, |sheet| {
            for (colour, _) in ON_DARK {
                sheet.line(&[(100.0, 100.0), (200.0, 200.0)], stroke(colour, 2.0));
            }
        });
        let dark = page.dark();
        assert!(dark.svg().contains("#FBF9F4 &quot;#22262B&quot;") && dark.size() == page.size());
        for (light, on_dark) in ON_DARK {
            let count = |svg: &str, RGBColor(red, green, blue): Colour| {
                svg.matches(&format!("\"#{red:02X}{green:02X}{blue:02X}\"")).count()
            };
            assert_eq!(count(page.svg(), light), count(dark.svg(), on_dark), "{light:?}");
            assert!(count(page.svg(), light) > 0 && count(dark.svg(), light) == 0, "{light:?}");
        }
    }

    #[test]
    fn pixels_are_as_wide_as_asked_and_covered_by_the_paper() {
        let page = Sheet::page(&Words { title: "T", caption: "C" }, |_| {});
        let pixels = page.pixels(100).unwrap();
        assert_eq!((pixels.width, pixels.height, pixels.rgba.len()), (100, 62, 100 * 62 * 4));
        assert!(pixels.rgba.chunks(4).all(|pixel| pixel[3] == 255));
        assert_eq!(pixels.rgba[50 * 4..50 * 4 + 3], [PAPER.0, PAPER.1, PAPER.2]);
    }

    #[test]
    fn a_line_of_very_many_points_keeps_what_can_be_seen() {
        let points: Vec<Point> = (0..100_000).map(|n| (f64::from(n) / 1000.0, f64::from(n % 137))).collect();
        let thin = thinned(&points);
        assert!(thin.len() < 1700, "{}", thin.len());
        assert_eq!((thin[0], thin.last()), (points[0], points.last()));
        let span =
            |points: &[Point]| points.iter().fold((f64::MAX, f64::MIN), |(low, high), p| (low.min(p.1), high.max(p.1)));
        assert_eq!(span(&thin), span(&points));
        let few = [(0.0, 0.0), (0.1, 5.0), (0.2, 0.0), (7.0, 1.0)];
        assert_eq!(thinned(&few), few);
    }

    #[test]
    fn a_page_has_its_size_and_draws_at_sixteen_times_it() {
        let page = Sheet::page(&Words { title: "T <&>", caption: "C" }, |_| {});
        assert!(page.svg().contains("width=\"1280\" height=\"800\" viewBox=\"0 0 20480 12800\""));
        assert!(page.svg().contains("T &lt;&amp;&gt;"));
    }

    #[test]
    fn text_widths_are_those_of_the_font() {
        assert!(text_width("", 12.0) == 0.0);
        assert!(text_width("iii", 12.0) < text_width("mmm", 12.0));
        assert!((text_width("0000", 10.0) / text_width("0", 10.0) - 4.0).abs() < 1e-9);
    }
}
