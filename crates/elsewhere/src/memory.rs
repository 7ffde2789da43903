//! The memory of a machine that has no system to ask for some.

use core::mem::MaybeUninit;

use linked_list_allocator::LockedHeap;

const SIZE: usize = 2 << 20;

static mut ROOM: [MaybeUninit<u8>; SIZE] = [MaybeUninit::uninit(); SIZE];

#[global_allocator]
static HEAP: LockedHeap = LockedHeap::empty();

/// To be called once, before anything else.
pub(crate) fn begin() {
    // SAFETY: nobody else has the room, and it is handed over once.
    unsafe { HEAP.lock().init((&raw mut ROOM).cast(), SIZE) }
}
