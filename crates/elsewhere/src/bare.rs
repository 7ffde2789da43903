//! A machine without an operating system; what it says goes to the emulator that runs it.

use cortex_m_rt::entry;
use cortex_m_semihosting::{debug, hprintln};

use crate::memory;

/// The first runs take an emulated machine seconds, those among platforms minutes.
const RUNS: u32 = if option_env!("ALL_RUNS").is_some() { crate::RUNS } else { 6 };

#[entry]
fn begin() -> ! {
    memory::begin();
    for run in 0..RUNS {
        hprintln!("{} {:016x}", run, crate::hash(run));
    }
    end(debug::EXIT_SUCCESS)
}

fn end(status: debug::ExitStatus) -> ! {
    debug::exit(status);
    loop {
        cortex_m::asm::wfi();
    }
}

#[panic_handler]
fn panicked(info: &core::panic::PanicInfo<'_>) -> ! {
    hprintln!("{}", info);
    end(debug::EXIT_FAILURE)
}
