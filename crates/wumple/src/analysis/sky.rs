//! Room without end to measure motion in.

use wumple_core::{
    Buttons, Character, CharacterId, DVec2, Edge, Edges, Grid, TickReport, TileProperties, Tuning, World,
};

/// A body with nothing around it, at first at the origin and at rest.
pub(super) struct Sky {
    world: World<Grid>,
    id: CharacterId,
}

impl Sky {
    pub(super) fn new(tuning: &Tuning) -> Sky {
        let open = Edges { left: Edge::Open, right: Edge::Open, top: Edge::Open, bottom: Edge::Open };
        let empty = Grid::new(1, vec![0], 4096.0, &[TileProperties::EMPTY], open).expect("one empty tile");
        let mut world = World::new(empty);
        let id = world.add_character(tuning.clone(), DVec2::ZERO).expect("there is room in the sky");
        Sky { world, id }
    }

    pub(super) fn tick(&mut self, held: Buttons) {
        self.world.tick(&[held]);
    }

    /// Throws the body: px/s, y down.
    pub(super) fn throw(&mut self, velocity: DVec2) {
        self.world.set_velocity(self.id, velocity);
    }

    pub(super) fn body(&self) -> &Character {
        self.world.character(self.id)
    }

    pub(super) fn report(&self) -> &TickReport {
        self.body().report()
    }

    pub(super) fn height(&self) -> f64 {
        -self.report().feet.y
    }

    pub(super) fn upward_speed(&self) -> f64 {
        -self.report().velocity.y
    }
}
