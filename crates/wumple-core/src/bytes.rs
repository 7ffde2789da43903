//! Values as bytes and back: little-endian, each field after the other, a byte before each variant.

use alloc::boxed::Box;
use alloc::vec::Vec;
use core::num::{NonZeroU32, NonZeroU64};

use glam::DVec2;

/// Where bytes go: into a list, or into a hash.
pub(crate) trait Sink {
    fn bytes(&mut self, bytes: &[u8]);
}

impl Sink for Vec<u8> {
    fn bytes(&mut self, bytes: &[u8]) {
        self.extend_from_slice(bytes);
    }
}

/// A hash of bytes, the same on every machine: 64 bits, each byte mixed in by a xor and a product (FNV-1a), and all of them
/// once more at the end.
pub(crate) struct Hasher(u64);

impl Hasher {
    pub(crate) fn new() -> Hasher {
        Hasher(0xcbf2_9ce4_8422_2325)
    }

    pub(crate) fn of(bytes: &[u8]) -> u64 {
        let mut hasher = Hasher::new();
        hasher.bytes(bytes);
        hasher.finish()
    }

    pub(crate) fn finish(&self) -> u64 {
        let mixed = (self.0 ^ (self.0 >> 32)).wrapping_mul(0x9e37_79b9_7f4a_7c15);
        mixed ^ (mixed >> 29)
    }
}

impl Sink for Hasher {
    fn bytes(&mut self, bytes: &[u8]) {
        for byte in bytes {
            self.0 = (self.0 ^ u64::from(*byte)).wrapping_mul(0x0100_0000_01b3);
        }
    }
}

/// Bytes that are read from the front.
pub(crate) struct Source<'a>(&'a [u8]);

impl<'a> Source<'a> {
    pub(crate) fn new(bytes: &'a [u8]) -> Source<'a> {
        Source(bytes)
    }

    pub(crate) fn take(&mut self, count: usize) -> Option<&'a [u8]> {
        let (first, rest) = self.0.split_at_checked(count)?;
        self.0 = rest;
        Some(first)
    }

    pub(crate) fn is_empty(&self) -> bool {
        self.0.is_empty()
    }
}

/// A value that can be turned into bytes and back.
pub(crate) trait Coded: Sized {
    fn put(&self, to: &mut impl Sink);
    /// `None` if the bytes cannot be one.
    fn decode(from: &mut Source<'_>) -> Option<Self>;
}

macro_rules! coded_numbers {
    ($($type:ty),+) => {$(
        impl Coded for $type {
            fn put(&self, to: &mut impl Sink) {
                to.bytes(&self.to_le_bytes());
            }
            fn decode(from: &mut Source<'_>) -> Option<$type> {
                Some(<$type>::from_le_bytes(from.take(size_of::<$type>())?.try_into().ok()?))
            }
        }
    )+};
}

coded_numbers!(u8, u16, u32, u64, i32, f64);

impl Coded for usize {
    fn put(&self, to: &mut impl Sink) {
        (*self as u64).put(to);
    }
    fn decode(from: &mut Source<'_>) -> Option<usize> {
        u64::decode(from)?.try_into().ok()
    }
}

impl Coded for bool {
    fn put(&self, to: &mut impl Sink) {
        u8::from(*self).put(to);
    }
    fn decode(from: &mut Source<'_>) -> Option<bool> {
        match u8::decode(from)? {
            0 => Some(false),
            1 => Some(true),
            _ => None,
        }
    }
}

impl Coded for NonZeroU32 {
    fn put(&self, to: &mut impl Sink) {
        self.get().put(to);
    }
    fn decode(from: &mut Source<'_>) -> Option<NonZeroU32> {
        NonZeroU32::new(u32::decode(from)?)
    }
}

impl Coded for NonZeroU64 {
    fn put(&self, to: &mut impl Sink) {
        self.get().put(to);
    }
    fn decode(from: &mut Source<'_>) -> Option<NonZeroU64> {
        NonZeroU64::new(u64::decode(from)?)
    }
}

impl Coded for DVec2 {
    fn put(&self, to: &mut impl Sink) {
        self.x.put(to);
        self.y.put(to);
    }
    fn decode(from: &mut Source<'_>) -> Option<DVec2> {
        Some(DVec2::new(f64::decode(from)?, f64::decode(from)?))
    }
}

impl<T: Coded> Coded for Option<T> {
    fn put(&self, to: &mut impl Sink) {
        self.is_some().put(to);
        if let Some(value) = self {
            value.put(to);
        }
    }
    fn decode(from: &mut Source<'_>) -> Option<Option<T>> {
        Some(if bool::decode(from)? { Some(T::decode(from)?) } else { None })
    }
}

impl<T: Coded> Coded for Box<T> {
    fn put(&self, to: &mut impl Sink) {
        T::put(self, to);
    }
    fn decode(from: &mut Source<'_>) -> Option<Box<T>> {
        Some(Box::new(T::decode(from)?))
    }
}

impl<T: Coded> Coded for Vec<T> {
    fn put(&self, to: &mut impl Sink) {
        self.len().put(to);
        self.iter().for_each(|value| value.put(to));
    }
    fn decode(from: &mut Source<'_>) -> Option<Vec<T>> {
        let count = usize::decode(from)?;
        // No more than there are bytes: a wrong count must not ask for all the memory there is.
        let mut all = Vec::with_capacity(count.min(from.0.len()));
        for _ in 0..count {
            all.push(T::decode(from)?);
        }
        Some(all)
    }
}

impl<T: Coded, const N: usize> Coded for [T; N] {
    fn put(&self, to: &mut impl Sink) {
        self.iter().for_each(|value| value.put(to));
    }
    fn decode(from: &mut Source<'_>) -> Option<[T; N]> {
        let mut all = Vec::with_capacity(N);
        for _ in 0..N {
            all.push(T::decode(from)?);
        }
        all.try_into().ok()
    }
}

impl<A: Coded, B: Coded> Coded for (A, B) {
    fn put(&self, to: &mut impl Sink) {
        self.0.put(to);
        self.1.put(to);
    }
    fn decode(from: &mut Source<'_>) -> Option<(A, B)> {
        Some((A::decode(from)?, B::decode(from)?))
    }
}

/// A struct, by all of its fields; or an enum, by all of its variants with a byte for each.
macro_rules! coded {
    (struct $type:ident { $($field:ident),* $(,)? }) => {
        impl $crate::bytes::Coded for $type {
            fn put(&self, to: &mut impl $crate::bytes::Sink) {
                let $type { $($field),* } = self;
                $($crate::bytes::Coded::put($field, to);)*
            }
            fn decode(from: &mut $crate::bytes::Source<'_>) -> Option<$type> {
                Some($type { $($field: $crate::bytes::Coded::decode(from)?),* })
            }
        }
    };
    (enum $type:ident {
        $($byte:literal => $variant:ident $(($($of:ident),+))? $({ $($field:ident),+ })?),+ $(,)?
    }) => {
        impl $crate::bytes::Coded for $type {
            fn put(&self, to: &mut impl $crate::bytes::Sink) {
                match self {
                    $($type::$variant $(($($of),+))? $({ $($field),+ })? => {
                        to.bytes(&[$byte]);
                        $($($crate::bytes::Coded::put($of, to);)+)?
                        $($($crate::bytes::Coded::put($field, to);)+)?
                    })+
                }
            }
            fn decode(from: &mut $crate::bytes::Source<'_>) -> Option<$type> {
                Some(match <u8 as $crate::bytes::Coded>::decode(from)? {
                    $($byte => {
                        $($(let $of = $crate::bytes::Coded::decode(from)?;)+)?
                        $($(let $field = $crate::bytes::Coded::decode(from)?;)+)?
                        $type::$variant $(($($of),+))? $({ $($field),+ })?
                    })+
                    _ => return None,
                })
            }
        }
    };
}

pub(crate) use coded;
