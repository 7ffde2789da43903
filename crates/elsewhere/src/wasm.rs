//! What a page, or a program outside of one, calls.

use crate::memory;

/// To be called once, before anything else; how many runs there are.
#[unsafe(no_mangle)]
pub extern "C" fn begin() -> u32 {
    memory::begin();
    crate::RUNS
}

/// The hash of one of them.
#[unsafe(no_mangle)]
pub extern "C" fn hash(run: u32) -> u64 {
    crate::hash(run)
}

#[panic_handler]
fn panicked(_: &core::panic::PanicInfo<'_>) -> ! {
    core::arch::wasm32::unreachable()
}
