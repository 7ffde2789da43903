//! x
fn main(){
    let a: Vec<String> = std::env::args().collect();
    let t = wumple::TuningFile::read(a[2].as_ref()).unwrap();
    let l = wumple::Level::read(a[1].as_ref()).unwrap();
    let b = wumple::ButtonsFile::read(a[3].as_ref(), &t.scale).unwrap();
    let (tl, _) = b.at_rate(60.0);
    let tr = wumple::run(&l, &t.tuning, &tl, tl.last_tick()+120).unwrap();
    for r in tr.written_rows() { if !r.events.is_empty() { println!("{:?}", r); } }
    println!("{:?}", tr.written_rows().last());
}
