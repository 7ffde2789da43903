//! Which tiles of a map are one zone: those of a kind and group that share edges.

use alloc::vec::Vec;

use super::ZoneKind;
use crate::groups::Group;

/// For each tile, the first of its zone, by rows. Empty where no tile is of a kind that joins.
#[derive(Clone, Debug, Default, PartialEq)]
pub(super) struct ZoneLabels(Vec<u32>);

impl ZoneLabels {
    /// `joined` says for each kind of tile with which others it is one zone, if it joins any.
    pub(super) fn of(columns: usize, tiles: &[u8], joined: &[Option<(ZoneKind, Group)>; 256]) -> ZoneLabels {
        let kind = |tile: usize| joined[usize::from(tiles[tile])];
        if joined.iter().all(Option::is_none) || !(0..tiles.len()).any(|tile| kind(tile).is_some()) {
            return ZoneLabels::default();
        }
        let mut labels: Vec<u32> = (0..tiles.len() as u32).collect();
        for tile in (0..tiles.len()).filter(|tile| kind(*tile).is_some()) {
            let left = (tile % columns > 0).then(|| tile - 1);
            let above = tile.checked_sub(columns);
            for other in [left, above].into_iter().flatten().filter(|other| kind(*other) == kind(tile)) {
                let (one, other) = (root(&mut labels, tile), root(&mut labels, other));
                labels[one.max(other) as usize] = one.min(other);
            }
        }
        (0..tiles.len()).for_each(|tile| labels[tile] = root(&mut labels, tile));
        ZoneLabels(labels)
    }

    /// The column and row of the first tile of the zone that a tile is of.
    pub(super) fn first(&self, columns: i32, column: i32, row: i32) -> (i32, i32) {
        let Some(first) = self.0.get((row * columns + column) as usize) else { return (column, row) };
        (*first as i32 % columns, *first as i32 / columns)
    }
}

/// The first tile that is known of a zone, the way to it made shorter.
fn root(labels: &mut [u32], tile: usize) -> u32 {
    let mut at = tile;
    while labels[at] as usize != at {
        labels[at] = labels[labels[at] as usize];
        at = labels[at] as usize;
    }
    at as u32
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn tiles_that_share_edges_are_one_zone() {
        let map = [".AA.B", "..A.B", "A.AAB", "A...A", "AAAAA"];
        let tiles: Vec<u8> = map.iter().flat_map(|row| row.bytes().map(|tile| tile - b'.')).collect();
        let mut joined = [None; 256];
        joined[usize::from(b'A' - b'.')] = Some((ZoneKind::Hazard, Group::LEVEL));
        joined[usize::from(b'B' - b'.')] = Some((ZoneKind::Goal, Group::LEVEL));
        let labels = ZoneLabels::of(5, &tiles, &joined);
        let first = |column, row| labels.first(5, column, row);
        assert_eq!([first(1, 0), first(2, 0), first(3, 2), first(2, 1)], [(1, 0); 4]);
        assert_eq!([first(4, 0), first(4, 2)], [(4, 0); 2]);
        assert_eq!([first(0, 2), first(0, 4), first(4, 4), first(4, 3)], [(0, 2); 4]);
        assert_eq!(ZoneLabels::of(5, &tiles, &[None; 256]).first(5, 3, 3), (3, 3));
    }
}
