//! Where the plan's things ended up in the network: names to vertices, branches and ports.

/// Which conductor pair of the plan a network conductor is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Run {
    Branch(usize),
    Converter(usize),
    Controller(usize),
    Shifter(usize),
    Load(usize),
    Injection(usize, usize),
    Ground(usize),
}

/// A feed and a return conductor, or a tie (one conductor, `back` only).
#[derive(Clone, Debug)]
pub(crate) struct ConductorInfo {
    /// Named by what it feeds.
    pub name: String,
    pub run: Run,
    pub feed: Option<usize>,
    pub back: usize,
}

/// + and − of something.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Terminals {
    pub plus: usize,
    pub minus: usize,
}

/// Vertices and branches by the plan's indices.
#[derive(Clone, Debug, Default)]
pub(crate) struct Layout {
    /// Per node of the plan.
    pub nodes: Vec<Terminals>,
    pub supplies: Vec<usize>,
    /// Input terminals, input branch, output branch.
    pub converters: Vec<(Terminals, usize, usize)>,
    /// Feed terminals, own demand, regulator.
    pub controllers: Vec<(Terminals, usize, Option<usize>)>,
    pub shifters: Vec<(Terminals, usize)>,
    /// Per load, per member.
    pub loads: Vec<Vec<(Terminals, usize)>>,
    /// Per strip, per injection: index of its port in the ladder.
    pub ports: Vec<Vec<usize>>,
    pub conductors: Vec<ConductorInfo>,
}
