//! What is on the disk after reading and writing.

use std::fs;
use std::path::Path;

use wumple::files::{read_text, write_whole};
use wumple::{FileError, TuningFile, demo};

fn entries(folder: &Path) -> Vec<String> {
    let mut names: Vec<String> =
        fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().file_name().to_string_lossy().into_owned()).collect();
    names.sort();
    names
}

#[test]
fn a_file_appears_whole_and_is_not_overwritten_unasked() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("new/dab.tuning.toml");
    write_whole(&path, b"one", false).unwrap();
    let error = write_whole(&path, b"two", false).unwrap_err();
    assert!(matches!(error, FileError::Exists { .. }));
    assert!(error.to_string().ends_with("dab.tuning.toml is there already"), "{error}");
    assert_eq!(read_text(&path).unwrap(), "one");
    write_whole(&path, b"two", true).unwrap();
    assert_eq!((read_text(&path).unwrap().as_str(), entries(path.parent().unwrap()).len()), ("two", 1));
}

/// What `?` in a test shows, and where an error came from.
#[test]
fn an_error_shows_itself_and_its_source() {
    use std::error::Error;
    let missing = TuningFile::read(Path::new("not-there.tuning.toml")).unwrap_err();
    assert!(missing.source().unwrap().downcast_ref::<std::io::Error>().is_some());
    assert_eq!(format!("{missing:?}"), missing.to_string());
    let wrong =
        TuningFile::parse("dab.tuning.toml", &demo::DAB.replace("height = \"3.4 tiles\"", "height = 1e9")).unwrap_err();
    let shown = format!("{:?}", FileError::from(wrong));
    assert!(shown.lines().count() < 8 && shown.contains("height = 1e9"), "one place, not the whole file: {shown}");
    let folder = TuningFile::read(Path::new(".")).unwrap_err();
    assert_eq!(folder.to_string(), ". is a folder, not a file");
}

/// What was left by a program that was killed is swept up; what is being written is not.
#[test]
fn what_a_kill_left_is_swept_up_by_the_next_write() {
    let folder = tempfile::tempdir().unwrap();
    let at = |name: &str| folder.path().join(name);
    for name in [".wumple-left01", ".wumple-left02", ".wumple-busy00", "mine.wumple-1", ".other"] {
        fs::write(at(name), "half").unwrap();
    }
    fs::create_dir(at(".wumple-folder")).unwrap();
    let busy = fs::File::open(at(".wumple-busy00")).unwrap();
    busy.lock().unwrap();
    write_whole(&at("new.csv"), b"whole", false).unwrap();
    assert_eq!(entries(folder.path()), [".other", ".wumple-busy00", ".wumple-folder", "mine.wumple-1", "new.csv"]);
}

#[cfg(unix)]
mod unix {
    use super::*;
    use std::os::unix::fs::{PermissionsExt, symlink};

    fn mode(path: &Path) -> u32 {
        fs::metadata(path).unwrap().permissions().mode() & 0o777
    }

    #[test]
    fn permissions_and_links_stay() {
        let folder = tempfile::tempdir().unwrap();
        let at = |name: &str| folder.path().join(name);
        // What any new file gets here.
        fs::write(at("plain"), "").unwrap();
        write_whole(&at("new"), b"new", false).unwrap();
        assert_eq!(mode(&at("new")), mode(&at("plain")));
        for permissions in [0o600, 0o640, 0o755] {
            fs::set_permissions(at("new"), fs::Permissions::from_mode(permissions)).unwrap();
            write_whole(&at("new"), b"again", true).unwrap();
            assert_eq!(mode(&at("new")), permissions);
        }
        fs::create_dir(at("elsewhere")).unwrap();
        symlink("elsewhere/real", at("link")).unwrap();
        symlink("link", at("link-to-it")).unwrap();
        for contents in ["first", "second"] {
            write_whole(&at("link-to-it"), contents.as_bytes(), true).unwrap();
            assert_eq!(read_text(&at("elsewhere/real")).unwrap(), contents);
            assert!(at("link-to-it").is_symlink() && at("link").is_symlink());
        }
        symlink("round", at("round")).unwrap();
        assert!(write_whole(&at("round"), b"", true).is_err());
    }

    #[test]
    fn a_folder_that_may_not_be_written_says_so() {
        let error = write_whole(Path::new("/proc/no-such/file.csv"), b"", true).unwrap_err();
        assert!(error.to_string().starts_with("/proc/no-such/file.csv: cannot be written: "), "{error}");
    }
}
