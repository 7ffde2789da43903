//! Whether too much lies in one place: what a body meets there is asked for several times a tick.

use alloc::vec::Vec;

use crate::space::Hitbox;

/// No more blocks, and no more drawn ramps, may touch one square of [`SQUARE`] px.
pub(super) const MOST: usize = 64;
/// The side of such a square, px.
pub(super) const SQUARE: f64 = 32.0;

/// A square, about as small as [`SQUARE`], that more than [`MOST`] of the things touch, if there is one, and the
/// first thing that is too many.
/// `touches` says whether a thing touches an area that is within `whole`.
pub(super) fn crowded_square(
    count: usize,
    whole: Hitbox,
    touches: &dyn Fn(usize, &Hitbox) -> bool,
) -> Option<(Hitbox, usize)> {
    crowded_within(&(0..count).collect::<Vec<usize>>(), whole, touches)
}

/// Quartered as long as it is crowded; what is not crowded has no crowded part.
fn crowded_within(things: &[usize], area: Hitbox, touches: &dyn Fn(usize, &Hitbox) -> bool) -> Option<(Hitbox, usize)> {
    if things.len() <= MOST {
        return None;
    }
    let (wide, tall) = (area.right - area.left > SQUARE, area.bottom - area.top > SQUARE);
    if !wide && !tall {
        return Some((area, things[MOST]));
    }
    let (x, y) = ((area.left + area.right) * 0.5, (area.top + area.bottom) * 0.5);
    let columns = if wide { [(area.left, x), (x, area.right)] } else { [(area.left, area.right); 2] };
    let rows = if tall { [(area.top, y), (y, area.bottom)] } else { [(area.top, area.bottom); 2] };
    for (left, right) in columns.into_iter().take(1 + usize::from(wide)) {
        for (top, bottom) in rows.into_iter().take(1 + usize::from(tall)) {
            let part = Hitbox { left, right, top, bottom };
            let there: Vec<usize> = things.iter().copied().filter(|thing| touches(*thing, &part)).collect();
            let found = crowded_within(&there, part, touches);
            if found.is_some() {
                return found;
            }
        }
    }
    None
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_crowd_is_found_where_it_is_and_a_row_is_none() {
        let whole = Hitbox { left: 0.0, right: 4000.0, top: 0.0, bottom: 1000.0 };
        let find = |places: &[(f64, f64)]| {
            crowded_square(places.len(), whole, &|thing, area| {
                let (x, y) = places[thing];
                (area.left..area.right).contains(&x) && (area.top..area.bottom).contains(&y)
            })
        };
        // A thousand in a row, 4 px apart, and then so many more at one place.
        let mut places: Vec<(f64, f64)> = (0..1000).map(|at| (f64::from(at) * 4.0, 500.0)).collect();
        assert_eq!(find(&places), None);
        places.extend([(3000.0, 700.0); MOST]);
        assert_eq!(find(&places), None, "as many as there may be");
        places.push((3001.0, 701.0));
        let (found, thing) = find(&places).unwrap();
        assert_eq!(thing, places.len() - 1);
        assert!(
            found.left <= 3000.0 && found.right > 3000.0 && found.top <= 700.0 && found.bottom > 700.0,
            "{found:?}"
        );
        assert!(found.right - found.left <= SQUARE && found.bottom - found.top <= SQUARE);
    }
}
