//! frame-rate-low and pixels-memory: lines of pixels against a wish of frames a second and the board's memory.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Bytes, Seconds};
use crate::size::firmware::pixels_at;
use crate::topology::data_lines::{lines, timing_of};
use crate::verdict::compare::at_most;

/// Of a board whose memory is not known more than this is asked about: what the smallest class has.
const WORTH_ASKING: f64 = 2048.0;

pub(crate) fn slow(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let Some((wish, said)) = plan.policy.frames else { return };
    let allowed = Seconds::new(1.0 / wish as f64);
    for line in lines(plan) {
        let Some(time) = line.frame(plan) else { continue };
        let first = &plan.strips[line.strips[0]];
        let name = &first.name.text;
        let rate = 1.0 / time.get();
        if at_most(time.get(), allowed.get()) {
            sink.pass(name, || format!("{rate:.1} fps of {wish}"));
            continue;
        }
        let pixels = line.pixels(plan);
        // Of strips of several kinds the slowest pixel decides how many go on a line.
        let most = line.strips.iter().filter_map(|s| timing_of(&plan.strips[*s]));
        let most = most.map(|t| pixels_at(t, wish as f64)).min().unwrap_or(0);
        let task = if most > 0 {
            let n = pixels.div_ceil(most);
            format!("split it over {n} pins, {} pixels or fewer on each: {most} reach {wish} fps", pixels.div_ceil(n))
        } else {
            format!("no line of such pixels reaches {wish} fps: reduce `frame-rate`")
        };
        sink.find(
            Draft::caution((name, first.data.as_ref().map_or(said, |d| d.span)))
                .says(format!(
                    "the line of {pixels} pixels on `{}` needs {time} per frame, {rate:.1} fps; {wish} fps required",
                    line.pin
                ))
                .judged("frame", time)
                .at_most("required", allowed, &Origin::Plan(said))
                .task(task),
        );
    }
}

pub(crate) fn memory(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let lines = lines(plan);
    for (i, board) in plan.boards.iter().enumerate() {
        let own = lines.iter().filter(|l| l.board == i).flat_map(|l| &l.strips);
        let bytes: usize = own.map(|s| plan.strips[*s].pixels * plan.strips[*s].pixel.bytes()).sum();
        if bytes == 0 {
            continue;
        }
        let name = &board.name.text;
        let wanted = Bytes::new(bytes as f64);
        let Some(ram) = &board.ram else {
            if wanted.get() > WORTH_ASKING {
                sink.unknown(
                    name,
                    board.name.span,
                    format!("cannot check the memory of `{name}` (a frame needs {wanted}): `ram` not given"),
                    "write the datasheet value: `ram = \"320 KiB\"`",
                );
            }
            continue;
        };
        if wanted <= ram.low {
            sink.pass(name, || format!("{wanted} of {}", ram.low));
            continue;
        }
        sink.find(
            Draft::caution(&board.name)
                .says(format!("a frame of the pixels on `{name}` needs {wanted}; {} available", ram.low))
                .judged("frame", wanted)
                .at_most("ram", ram.low, &ram.origin),
        );
    }
}
