//! Draws the hard places as the list of pieces has them: `docs/hard-places.svg`, for whoever reads this code.

use alloc::format;
use alloc::string::String;

use super::*;
use crate::terrain::{Edge, Edges, Grid, Surface, TileProperties};

const TILE: f64 = 16.0;
/// Points a px.
const SCALE: f64 = 2.6;

/// A small room, its bodies, and what is to be seen in it.
struct Panel {
    title: &'static str,
    said: [&'static str; 2],
    rows: [&'static str; 4],
    body: Body,
    /// Where it starts, and to where it walks.
    from: DVec2,
    to: f64,
}

const PANELS: [Panel; 3] = [
    Panel {
        title: "A slope",
        said: [
            "Only the feet's middle meets it. What it leads up to is buried",
            "to the body: the hitbox may be inside of it.",
        ],
        rows: ["......", "......", "../###", "./####"],
        body: Body { width: 14.0, height: 20.0 },
        from: DVec2::new(12.0, 64.0),
        to: 60.0,
    },
    Panel {
        title: "Seams",
        said: [
            "A floor or a wall of many tiles has no edges between them:",
            "a face is met where the body comes to it, never from inside.",
        ],
        rows: ["....#.", "....#.", "....#.", "######"],
        body: Body { width: 12.0, height: 26.0 },
        from: DVec2::new(14.0, 48.0),
        to: 90.0,
    },
    Panel {
        title: "Hidden faces",
        said: [
            "Dashed: faces that something solid covers, and tops under solid",
            "tiles. They hold nobody and are no walls.",
        ],
        rows: ["......", ".##...", ".###\\.", "/#####"],
        body: Body { width: 10.0, height: 18.0 },
        from: DVec2::new(91.0, 48.0),
        to: 60.0,
    },
];

fn grid(rows: &[&str]) -> Grid {
    let letters = b".#/\\";
    let ramp = |left_height, right_height| TileProperties::of(Surface::Ramp { left_height, right_height });
    let kinds = [TileProperties::EMPTY, TileProperties::SOLID, ramp(0.0, TILE), ramp(TILE, 0.0)];
    let kind = |letter| letters.iter().position(|known| *known == letter).unwrap() as u8;
    let tiles = rows.iter().flat_map(|row| row.bytes().map(kind)).collect();
    let open = Edges { left: Edge::Open, right: Edge::Open, top: Edge::Open, bottom: Edge::Open };
    Grid::new(rows[0].len(), tiles, TILE, &kinds, open).unwrap()
}

fn line((x1, y1): (f64, f64), (x2, y2): (f64, f64), style: &str) -> String {
    format!("<line x1=\"{x1:.1}\" y1=\"{y1:.1}\" x2=\"{x2:.1}\" y2=\"{y2:.1}\" {style}/>\n")
}

fn rectangle(place: &Hitbox, at: &dyn Fn(f64, f64) -> (f64, f64), style: &str) -> String {
    let ((x, y), (right, bottom)) = (at(place.left, place.top), at(place.right, place.bottom));
    format!("<rect x=\"{x:.1}\" y=\"{y:.1}\" width=\"{:.1}\" height=\"{:.1}\" {style}/>\n", right - x, bottom - y)
}

fn text((x, y): (f64, f64), size: u32, words: &str) -> String {
    format!("<text x=\"{x}\" y=\"{y}\" font-family=\"sans-serif\" font-size=\"{size}\" fill=\"#333\">{words}</text>\n")
}

const SOLID: &str = "fill=\"#d9c7b0\"";
const FACE: &str = "stroke=\"#7a3b1d\" stroke-width=\"3\"";
const HIDDEN: &str = "stroke=\"#7a3b1d\" stroke-width=\"1\" stroke-dasharray=\"3 3\"";
const TOP: &str = "stroke=\"#2f6f4f\" stroke-width=\"4\"";
const BODY: &str = "fill=\"#4a7fb5\" fill-opacity=\"0.12\" stroke=\"#4a7fb5\" stroke-width=\"1.2\"";

/// The pieces of a panel's room, and the hitbox on its way.
fn drawn(panel: &Panel, left: f64) -> String {
    let grid = grid(&panel.rows);
    let at = |x: f64, y: f64| (left + x * SCALE, 46.0 + y * SCALE);
    let everywhere = Hitbox { left: -1.0, right: 97.0, top: -1.0, bottom: 65.0 };
    let around = Surroundings::without_movers(&grid, &panel.body, false, Some(&everywhere));
    let (mut fills, mut lines) = (text((left, 26.0), 16, panel.title), String::new());
    around.nearby.solids(&grid, &everywhere, |solid| {
        let (place, is_ramp) = (&solid.place, matches!(solid.id, PieceId::Ramp(_)));
        if !is_ramp {
            fills += &rectangle(place, &at, SOLID);
        }
        for (x, top, hidden) in [
            (place.left, solid.faces.left_top, solid.faces.left_hidden),
            (place.right, solid.faces.right_top, solid.faces.right_hidden),
        ] {
            let style = if hidden || top == f64::INFINITY { HIDDEN } else { FACE };
            let top = if top == f64::INFINITY { place.top } else { top };
            lines += &line(at(x, top), at(x, place.bottom), style);
        }
        if !is_ramp {
            lines += &line(at(place.left, place.top), at(place.right, place.top), HIDDEN);
        }
    });
    around.nearby.flat_tops(&grid, &everywhere, |top| {
        lines += &line(at(top.place.left, top.place.top), at(top.place.right, top.place.top), TOP);
    });
    around.nearby.slopes(&grid, &everywhere, |slope| {
        let (from, to) = (slope.ramp.left_end(), slope.ramp.right_end());
        let corner = DVec2::new(if from.y < to.y { from.x } else { to.x }, from.y.max(to.y));
        let [a, b, c] = [from, to, corner].map(|point| at(point.x, point.y));
        fills +=
            &format!("<path d=\"M{:.1} {:.1}L{:.1} {:.1}L{:.1} {:.1}z\" {SOLID}/>\n", a.0, a.1, b.0, b.1, c.0, c.1);
        lines += &line(a, b, TOP);
    });
    let steps = 6;
    for step in 0..=steps {
        let x = panel.from.x + (panel.to - panel.from.x) * f64::from(step) / f64::from(steps);
        let walk = around.walk(panel.from, x, Footing::Ground { steepest: f64::INFINITY });
        let feet = around
            .set_down(walk.feet, panel.from, 8.0, 0.0)
            .map_or(walk.feet, |down| DVec2::new(walk.feet.x, down.top));
        lines += &rectangle(&panel.body.hitbox_at(feet), &at, BODY);
        let (x, y) = at(feet.x, feet.y);
        lines += &format!("<circle cx=\"{x:.1}\" cy=\"{y:.1}\" r=\"2.5\" fill=\"#1d4f80\"/>\n");
    }
    let words = [text((left, 236.0), 12, panel.said[0]), text((left, 253.0), 12, panel.said[1])].concat();
    [fills, lines, words].concat()
}

/// With `RENEW=1` the drawing is made anew.
#[test]
fn hard_places_are_drawn_as_the_list_has_them() {
    extern crate std;
    const FILE: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/hard-places.svg");
    let panels: String = PANELS.iter().zip([20.0, 420.0, 820.0]).map(|(panel, left)| drawn(panel, left)).collect();
    let key = [
        line((20.0, 282.0), (50.0, 282.0), TOP) + &text((58.0, 286.0), 12, "holds feet"),
        line((170.0, 282.0), (200.0, 282.0), FACE) + &text((208.0, 286.0), 12, "stops a body"),
        line((330.0, 282.0), (360.0, 282.0), HIDDEN) + &text((368.0, 286.0), 12, "hidden"),
        text((450.0, 286.0), 12, "Boxes: the hitbox on its way; dots: the middle of its feet"),
    ]
    .concat();
    let svg = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 1220 300\" width=\"1220\" height=\"300\">\n\
         <rect width=\"1220\" height=\"300\" fill=\"#fffdf8\"/>\n{panels}{key}</svg>\n"
    );
    if std::env::var_os("RENEW").is_some() {
        std::fs::write(FILE, svg).unwrap();
        return;
    }
    assert!(std::fs::read_to_string(FILE).is_ok_and(|there| there == svg), "renew it with RENEW=1");
}
