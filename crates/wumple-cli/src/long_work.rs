//! Work that takes a while: how far it is, on standard error where that is a terminal, and Ctrl-C, which ends it with what it has.

use std::sync::atomic::{AtomicU8, Ordering};

use indicatif::{ProgressBar, ProgressDrawTarget, ProgressStyle};

use crate::say::say;

/// What Ctrl-C does.
static STATE: AtomicU8 = AtomicU8::new(ENDS);
/// The program ends.
const ENDS: u8 = 0;
/// The work is asked to end.
const WORKS: u8 = 1;
/// It was asked.
const ASKED: u8 = 2;

/// Called at Ctrl-C: whether the program is to end at once.
pub(crate) fn interrupt_ends() -> bool {
    STATE.compare_exchange(WORKS, ASKED, Ordering::SeqCst, Ordering::SeqCst).is_err()
}

/// Work that goes on.
pub(crate) struct LongWork {
    bar: ProgressBar,
}

impl LongWork {
    /// Work of so many steps at most, of a kind that has a word: `ticks`.
    pub(crate) fn start(most: u64, of: &'static str) -> LongWork {
        STATE.store(WORKS, Ordering::SeqCst);
        // Hidden where standard error is no terminal.
        let bar = ProgressBar::with_draw_target(Some(most), ProgressDrawTarget::stderr());
        let template =
            format!("{{bar:30}} {{human_pos}} of {{human_len}} {of}, {{elapsed}} (Ctrl-C ends it with what it has)");
        if let Ok(style) = ProgressStyle::with_template(&template) {
            bar.set_style(style);
        }
        LongWork { bar }
    }

    /// So much is done; whether to go on.
    pub(crate) fn goes_on(&self, done: u64) -> bool {
        self.bar.set_position(done);
        STATE.load(Ordering::SeqCst) != ASKED
    }
}

impl Drop for LongWork {
    fn drop(&mut self) {
        self.bar.finish_and_clear();
        if STATE.swap(ENDS, Ordering::SeqCst) == ASKED {
            say("interrupted: this is what there was by then");
        }
    }
}
