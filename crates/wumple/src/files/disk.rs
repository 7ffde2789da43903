use std::ffi::OsStr;
use std::fs::{self, File};
use std::io::{self, Read, Write};
use std::path::{Path, PathBuf};
use std::sync::{Mutex, MutexGuard, PoisonError};
use std::{error, fmt};

use tempfile::{NamedTempFile, TempPath};

use super::diagnostic::{Diagnostics, Notes, harmless};

/// Why a file cannot be read or written. Displayed, and debugged, as a line that names the file.
#[non_exhaustive]
pub enum FileError {
    /// It cannot be opened or read.
    Read {
        /// The file.
        path: PathBuf,
        /// What the system said.
        cause: io::Error,
    },
    /// It cannot be written.
    Write {
        /// The file.
        path: PathBuf,
        /// What the system said.
        cause: io::Error,
    },
    /// It is there already, and was not to be overwritten.
    Exists {
        /// The file.
        path: PathBuf,
    },
    /// It is no file: a folder, or for a file that another file names also a device or a pipe.
    NoFile {
        /// What it is called.
        path: PathBuf,
        /// `a folder`, or `a device or a pipe`.
        what: &'static str,
    },
    /// It is larger than what is read.
    TooLarge {
        /// The file.
        path: PathBuf,
        /// The most that is read, bytes.
        most: u64,
    },
    /// It is named by another file, and outside the folder in which that may name files.
    Outside {
        /// The file.
        path: PathBuf,
        /// The folder.
        folder: PathBuf,
    },
    /// What it says is wrong.
    Wrong(Diagnostics),
}

impl fmt::Display for FileError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let name = |path: &Path| harmless(&path.display().to_string());
        match self {
            FileError::Read { path, cause } => write!(f, "{}: {cause}", name(path)),
            FileError::Write { path, cause } => write!(f, "{}: cannot be written: {cause}", name(path)),
            FileError::Exists { path } => write!(f, "{} is there already", name(path)),
            FileError::NoFile { path, what } => write!(f, "{} is {what}, not a file", name(path)),
            FileError::TooLarge { path, most } => {
                write!(f, "{} has more than {} MiB, which is the most that is read", name(path), most >> 20)
            }
            FileError::Outside { path, folder } => write!(
                f,
                "{} is outside {}, where a file may name others; put it there, or allow another folder",
                name(path),
                name(folder)
            ),
            FileError::Wrong(diagnostics) => write!(f, "{diagnostics}"),
        }
    }
}

/// What `?` in a test shows.
impl fmt::Debug for FileError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            FileError::Wrong(diagnostics) => write!(f, "{diagnostics:?}"),
            error => write!(f, "{error}"),
        }
    }
}

impl error::Error for FileError {
    fn source(&self) -> Option<&(dyn error::Error + 'static)> {
        match self {
            FileError::Read { cause, .. } | FileError::Write { cause, .. } => Some(cause),
            FileError::Wrong(diagnostics) => Some(diagnostics),
            _ => None,
        }
    }
}

impl From<Diagnostics> for FileError {
    fn from(diagnostics: Diagnostics) -> FileError {
        FileError::Wrong(diagnostics)
    }
}

/// No file that is read is larger, bytes: a level of the most tiles has a third of it.
const MOST_BYTES: u64 = 64 << 20;
/// But traces may be: those of ten million ticks are the largest that we write.
const MOST_BYTES_OF_A_TRACE: u64 = 2 << 30;

/// Reads a text file.
///
/// # Errors
///
/// If it cannot be read, is a folder or has more than 64 MiB; if it is not UTF-8, with the place of the first byte that
/// is not.
pub fn read_text(path: &Path) -> Result<String, FileError> {
    text_of(path, read_bytes(path)?)
}

/// Reads a trace.
pub(crate) fn read_trace_text(path: &Path) -> Result<String, FileError> {
    text_of(path, read(path, MOST_BYTES_OF_A_TRACE)?)
}

/// Reads a file that is no text.
pub(crate) fn read_bytes(path: &Path) -> Result<Vec<u8>, FileError> {
    read(path, MOST_BYTES)
}

/// Says so if what another file names is no file: a pipe would be waited for.
pub(crate) fn check_named(path: &Path) -> Result<(), FileError> {
    match fs::metadata(path) {
        Ok(there) if !there.is_file() && !there.is_dir() => {
            Err(FileError::NoFile { path: path.into(), what: "a device or a pipe" })
        }
        _ => Ok(()),
    }
}

fn read(path: &Path, most: u64) -> Result<Vec<u8>, FileError> {
    let failed = |cause| FileError::Read { path: path.into(), cause };
    let file = File::open(path).map_err(failed)?;
    let there = file.metadata().map_err(failed)?;
    if there.is_dir() {
        return Err(FileError::NoFile { path: path.into(), what: "a folder" });
    }
    let mut bytes = Vec::new();
    file.take(most + 1).read_to_end(&mut bytes).map_err(failed)?;
    if bytes.len() as u64 > most {
        return Err(FileError::TooLarge { path: path.into(), most });
    }
    Ok(bytes)
}

fn text_of(path: &Path, bytes: Vec<u8>) -> Result<String, FileError> {
    String::from_utf8(bytes).map_err(|error| {
        let valid = error.utf8_error().valid_up_to();
        let bytes = error.as_bytes();
        let text = String::from_utf8_lossy(&bytes[..valid]).into_owned();
        let mut notes = Notes::new(&path.display().to_string(), &text);
        let message = if bytes.starts_with(b"\x89PNG") {
            String::from("this is a picture (PNG), not a text")
        } else {
            format!("byte {:#04x} is not UTF-8; save the file as UTF-8 text", bytes[valid])
        };
        notes.error(valid..valid, message);
        FileError::Wrong(notes.finish().expect_err("an error was noted"))
    })
}

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
