//! The commands shown in the documents, run as they stand there.

#[test]
fn the_guides_commands_print_what_the_guide_says() {
    let root = concat!(env!("CARGO_MANIFEST_DIR"), "/../..");
    std::env::set_current_dir(root).unwrap();
    trycmd::TestCases::new().case("docs/*.md").env("NO_COLOR", "1");
}
