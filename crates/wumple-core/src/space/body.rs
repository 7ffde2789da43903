use glam::DVec2;

/// The size of a hitbox, px. The same in every pose.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Body {
    /// Width, px.
    pub width: f64,
    /// Height, px.
    pub height: f64,
}

impl Body {
    /// Half the width, px: exact, because widths are whole multiples of 1/1024 px.
    #[inline]
    #[must_use]
    pub fn half_width(&self) -> f64 {
        self.width * 0.5
    }

    /// The box around feet at this place.
    #[must_use]
    pub fn hitbox_at(&self, feet: DVec2) -> Hitbox {
        Hitbox {
            left: feet.x - self.half_width(),
            right: feet.x + self.half_width(),
            top: feet.y - self.height,
            bottom: feet.y,
        }
    }
}

/// A box `[left, right) x [top, bottom)`, px, y down.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct Hitbox {
    /// Left edge, inside.
    pub left: f64,
    /// Right edge, outside.
    pub right: f64,
    /// Top edge, inside.
    pub top: f64,
    /// Bottom edge, outside.
    pub bottom: f64,
}

impl Hitbox {
    /// No box at all: nothing touches it, and it contains nothing.
    pub(crate) const NOWHERE: Hitbox = Hitbox { left: 0.0, right: -1.0, top: 0.0, bottom: -1.0 };

    /// All there is.
    pub(crate) const EVERYWHERE: Hitbox =
        Hitbox { left: f64::NEG_INFINITY, right: f64::INFINITY, top: f64::NEG_INFINITY, bottom: f64::INFINITY };

    /// Whether the two boxes overlap or touch.
    #[inline]
    #[must_use]
    pub fn touches(&self, other: &Hitbox) -> bool {
        self.left <= other.right && self.right >= other.left && self.top <= other.bottom && self.bottom >= other.top
    }

    /// The box with its upper left corner here, px.
    #[inline]
    #[must_use]
    pub fn at(corner: DVec2, size: DVec2) -> Hitbox {
        Hitbox { left: corner.x, right: corner.x + size.x, top: corner.y, bottom: corner.y + size.y }
    }

    /// Whether the two boxes overlap: to touch is not to.
    #[must_use]
    pub fn overlaps(&self, other: &Hitbox) -> bool {
        self.left < other.right && self.right > other.left && self.top < other.bottom && self.bottom > other.top
    }

    /// How far the two are apart along the axis on which they are further, px; not above 0 if they touch.
    #[inline]
    pub(crate) fn gap(&self, other: &Hitbox) -> f64 {
        let aside = (other.left - self.right).max(self.left - other.right);
        aside.max((other.top - self.bottom).max(self.top - other.bottom))
    }

    /// Whether all of the other lies within this one.
    #[inline]
    #[must_use]
    pub fn contains(&self, other: &Hitbox) -> bool {
        self.left <= other.left && other.right <= self.right && self.top <= other.top && other.bottom <= self.bottom
    }

    /// The least box around both.
    #[must_use]
    pub fn around(&self, other: &Hitbox) -> Hitbox {
        Hitbox {
            left: self.left.min(other.left),
            right: self.right.max(other.right),
            top: self.top.min(other.top),
            bottom: self.bottom.max(other.bottom),
        }
    }

    /// The same box with so much more on every side, px.
    #[must_use]
    pub fn grown(&self, by: f64) -> Hitbox {
        Hitbox { left: self.left - by, right: self.right + by, top: self.top - by, bottom: self.bottom + by }
    }

    /// The same box, moved, px.
    pub(crate) fn moved(&self, by: glam::DVec2) -> Hitbox {
        Hitbox { left: self.left + by.x, right: self.right + by.x, top: self.top + by.y, bottom: self.bottom + by.y }
    }
}
