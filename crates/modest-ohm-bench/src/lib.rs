//! Nothing here: `cargo bench -p modest-ohm-bench` runs `benches/ladder.rs`.
