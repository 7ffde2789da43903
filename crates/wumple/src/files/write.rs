//! Writing files, whole or not at all.

use std::ffi::OsStr;
use std::fs::{self, File};
use std::io::{self, Write};
use std::path::{Path, PathBuf};
use std::sync::{Mutex, MutexGuard, PoisonError};

use tempfile::{NamedTempFile, TempPath};

use super::disk::FileError;

/// Writes a file whole or not at all: into a temporary file beside it, which then takes its place. The
/// folder is made if it is not there.
///
/// A file that is there keeps its permissions, and one that is a symbolic link stays one: what it leads to is
/// written. (Of several hard links the others keep what was there.) What a program that was killed left half
/// written in the folder is removed.
///
/// # Errors
///
/// If the file is there already and `overwrite` is false, or the system refuses.
pub fn write_whole(path: &Path, contents: &[u8], overwrite: bool) -> Result<(), FileError> {
    if !overwrite && path.exists() {
        return Err(FileError::Exists { path: path.into() });
    }
    let write = || -> io::Result<()> {
        let target = linked(path)?;
        let folder = target.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
        fs::create_dir_all(folder)?;
        sweep(folder);
        let mut unfinished = Unfinished::new(folder)?;
        unfinished.file.write_all(contents)?;
        unfinished.file.as_file().sync_all()?;
        if let Ok(there) = fs::metadata(&target) {
            unfinished.file.as_file().set_permissions(there.permissions())?;
        }
        unfinished.take_place_of(&target, overwrite)
    };
    write().map_err(|cause| FileError::Write { path: path.into(), cause })
}

/// What a path leads to, if it is a symbolic link, even to what is not there yet.
fn linked(path: &Path) -> io::Result<PathBuf> {
    let mut target = path.to_owned();
    // As many as systems follow.
    for _ in 0..40 {
        match fs::read_link(&target) {
            Ok(next) => target = target.parent().unwrap_or(Path::new("")).join(next),
            Err(_) => return Ok(target),
        }
    }
    Err(io::Error::other("too many symbolic links"))
}

/// What our temporary files begin with.
const UNFINISHED: &str = ".wumple-";

/// The temporary files being written now.
static BEING_WRITTEN: Mutex<Vec<PathBuf>> = Mutex::new(Vec::new());

fn being_written() -> MutexGuard<'static, Vec<PathBuf>> {
    BEING_WRITTEN.lock().unwrap_or_else(PoisonError::into_inner)
}

/// A temporary file: locked while it is written, so that nobody sweeps it up.
struct Unfinished {
    file: NamedTempFile,
}

impl Unfinished {
    fn new(folder: &Path) -> io::Result<Unfinished> {
        let mut builder = tempfile::Builder::new();
        builder.prefix(UNFINISHED);
        #[cfg(unix)]
        {
            use std::os::unix::fs::PermissionsExt;
            // As any new file: less what the user's mask takes away.
            builder.permissions(fs::Permissions::from_mode(0o666));
        }
        // Between its making and its lock somebody may take it for a left one: then another is made.
        for _ in 0..100 {
            let mut all = being_written();
            // Without its name, which says nothing to whoever reads the message.
            let file = builder.tempfile_in(folder).map_err(|error| io::Error::from(error.kind()))?;
            // Where there are no locks, nothing is swept up either.
            let _ = file.as_file().lock();
            if file.path().exists() {
                all.push(file.path().to_owned());
                return Ok(Unfinished { file });
            }
        }
        Err(io::Error::other("temporary files vanish from the folder"))
    }

    fn take_place_of(self, target: &Path, overwrite: bool) -> io::Result<()> {
        let mut all = being_written();
        let path = self.file.path().to_owned();
        let (file, temporary): (File, TempPath) = self.file.into_parts();
        let done = if overwrite { temporary.persist(target) } else { temporary.persist_noclobber(target) };
        all.retain(|known| *known != path);
        drop(file);
        done.map_err(|error| error.error)
    }
}

/// Removes what is half written at this moment. After it nothing can be written any more: it is the last act of a
/// program that a signal ends.
pub fn remove_unfinished() {
    let mut all = being_written();
    for path in all.drain(..) {
        let _ = fs::remove_file(path);
    }
    // Whoever would write now waits until the program is over.
    std::mem::forget(all);
}

/// Removes temporary files that nobody writes any more.
fn sweep(folder: &Path) {
    let Ok(entries) = fs::read_dir(folder) else { return };
    let is_ours = |name: &OsStr| name.to_str().is_some_and(|name| name.starts_with(UNFINISHED));
    for entry in entries.flatten().filter(|entry| is_ours(&entry.file_name())) {
        let is_file = entry.file_type().is_ok_and(|kind| kind.is_file());
        let Ok(file) = File::open(entry.path()) else { continue };
        if is_file && file.try_lock().is_ok() {
            let _ = fs::remove_file(entry.path());
        }
    }
}
