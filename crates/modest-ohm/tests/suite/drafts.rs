//! Plans written in code: every draft says what its text says, and a mistake in code is reported as one in a text.

use modest_ohm::plan::{
    BoardDraft, BranchDraft, CapacitorDraft, ConverterDraft, DiodeDraft, InjectionDraft, Lead, LinkDraft, LoadDraft,
    PlanBuilder, ShifterDraft, StripDraft, SupplyDraft, SwitchDraft,
};
use modest_ohm::units::{Amps, Celsius, Farads, Fraction, Metres, Ohms, OhmsPerMetre, PerMetre, Volts, Watts};
use modest_ohm::{Plan, Review, Select};

/// The same numbers, findings and passes from both.
fn the_same(built: &PlanBuilder, text: &str) {
    let (built, read) = (built.build().unwrap(), Plan::from_toml(text).unwrap());
    assert_eq!(built.title(), read.title());
    assert_eq!(built.nodes(), read.nodes());
    let (a, b) = (built.review(), read.review());
    let all = Select { all_corners: true, ..Select::default() };
    assert_eq!(format!("{:?}", a.nodes(&all)), format!("{:?}", b.nodes(&all)));
    assert_eq!(format!("{:?}", a.strips(&all)), format!("{:?}", b.strips(&all)));
    assert_eq!(format!("{:?}", a.signals(&all)), format!("{:?}", b.signals(&all)));
    let findings = |r: &Review| r.findings().iter().map(|f| (f.code, f.message.clone())).collect::<Vec<_>>();
    assert_eq!(findings(&a), findings(&b));
    let passed =
        |r: &Review| r.passed().iter().map(|p| (p.code, p.subject.clone(), p.margin.clone())).collect::<Vec<_>>();
    assert_eq!(passed(&a), passed(&b));
}

/// The same plan in code and as text gives the same numbers.
#[test]
fn the_builder_says_the_same_as_the_text() {
    let built = Plan::builder("Ferry \"landing\"\n")
        .ambient(Celsius::new(28.0))
        .supply(
            SupplyDraft::bench("wall").voltage(Volts::new(12.0)).current(Amps::new(6.0)).resistance(Ohms::new(0.02)),
        )
        .branch(BranchDraft::new("deck").from("wall").cable(Lead::awg(Metres::new(1.2), 16)).fuse(Amps::new(5.0)))
        .converter(
            ConverterDraft::buck("five")
                .from("deck")
                .cable(Lead::mm2(Metres::new(0.2), 1.5))
                .output(Volts::new(5.1))
                .current(Amps::new(5.0))
                .efficiency(Fraction::new(0.9))
                .quiescent(Watts::new(0.1))
                .resistance(Ohms::new(0.0)),
        )
        .board(BoardDraft::new("keeper").part("wifi-board-3v3").from("five").mean(Amps::new(0.1)).peak(Amps::new(0.4)))
        .shifter(ShifterDraft::new("lift").part("hct-buffer").from("five").current(Amps::new(0.002)))
        .strip(
            StripDraft::new("quay", "pixel-5v-rgb")
                .from("five")
                .length(Metres::new(1.5))
                .pixels(PerMetre::new(30.0))
                .copper(OhmsPerMetre::new(0.08))
                .firmware_limit(Amps::new(1.0))
                .inject(InjectionDraft::at(Metres::new(0.0), Lead::measured(Ohms::new(0.01), Ohms::new(0.02))))
                .key("data", "{ pin = \"keeper.io27\", through = \"lift\" }"),
        )
        .load(LoadDraft::amps("winch", Amps::new(0.35)).from("deck").voltage(Volts::new(12.0)).minimum(Volts::new(9.0)))
        .load(LoadDraft::watts("radio", Watts::new(3.0)).from("deck").voltage(Volts::new(12.0)))
        .load(LoadDraft::ohms("stove", Ohms::new(40.0)).from("deck").voltage(Volts::new(12.0)).knee(Volts::new(1.0)))
        .scenario("dusk", &[("quay", Fraction::new(0.25))], &["winch"]);
    let text = "format = 1\ntitle = \"Ferry \\\"landing\\\"\\n\"\nambient = \"28 °C\"\n\
        [supply.wall]\nkind = \"bench\"\nvoltage = \"12 V\"\ncurrent = \"6 A\"\nresistance = \"20 mΩ\"\n\
        [branch.deck]\nfrom = \"wall\"\ncable = \"1.2 m 16 AWG\"\nfuse = \"5 A\"\n\
        [converter.five]\nkind = \"buck\"\nfrom = \"deck\"\ncable = \"0.2 m 1.5 mm²\"\noutput = \"5.1 V\"\ncurrent = \"5 A\"\nefficiency = \"90 %\"\nquiescent = \"100 mW\"\nresistance = \"0 Ω\"\n\
        [board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"five\"\nmean = \"100 mA\"\npeak = \"0.4 A\"\n\
        [shifter.lift]\npart = \"hct-buffer\"\nfrom = \"five\"\ncurrent = \"2 mA\"\n\
        [strip.quay]\npart = \"pixel-5v-rgb\"\nfrom = \"five\"\nlength = \"150 cm\"\npixels = \"30 /m\"\ncopper = \"80 mΩ/m\"\nfirmware-limit = \"1 A\"\n\
        inject = [ { at = \"start\", cable = { feed = \"10 mΩ\", return = \"20 mΩ\" } } ]\ndata = { pin = \"keeper.io27\", through = \"lift\" }\n\
        [load.winch]\nfrom = \"deck\"\ncurrent = \"350 mA\"\nvoltage = \"12 V\"\nminimum = \"9 V\"\n\
        [load.radio]\nfrom = \"deck\"\npower = \"3 W\"\nvoltage = \"12 V\"\n\
        [load.stove]\nfrom = \"deck\"\nresistance = \"40R\"\nvoltage = \"12 V\"\nknee = \"1 V\"\n\
        [scenario.dusk]\nset = { quay = \"25 %\" }\noff = [\"winch\"]\n";
    the_same(&built, text);
    // A mistake in code is reported as one in a text would be.
    let wrong = Plan::builder("x")
        .supply(SupplyDraft::bench("wall").voltage(Volts::new(12.0)))
        .load(LoadDraft::amps("a", Amps::new(1.0)).from("wal"));
    assert!(wrong.build().unwrap_err().to_string().contains("did you mean `wall`?"));
}

/// A van with a switch, a reversed diode's place, a clamp, a boost, a link that stays open and capacitors.
#[test]
fn sources_and_rails_in_code() {
    let built = Plan::builder("Puppet cart")
        .supply(SupplyDraft::vehicle("van", "12 V").current(Amps::new(20.0)).key("keyed", "true"))
        .switch(SwitchDraft::new("main").from("van").cable(Lead::awg(Metres::new(2.0), 12)).current(Amps::new(10.0)))
        .diode(DiodeDraft::series("guard").from("main").vf(Volts::new(0.4)).current(Amps::new(8.0)))
        .diode(DiodeDraft::clamp("tvs", "guard", Volts::new(22.0)))
        .converter(
            ConverterDraft::linear("eight")
                .from("guard")
                .output(Volts::new(5.0))
                .current(Amps::new(0.5))
                .key("theta-ja", "\"20 K/W\""),
        )
        .converter(ConverterDraft::boost("high").from("guard").output(Volts::new(24.0)).current(Amps::new(1.0)))
        .link(LinkDraft::new("spare", ["eight", "high"], false).resistance(Ohms::new(0.02)))
        .capacitor(CapacitorDraft::new("tank", "eight", Farads::new(470e-6)).esr(Ohms::new(0.04)))
        .load(LoadDraft::amps("bell", Amps::new(0.1)).from("eight").voltage(Volts::new(5.0)))
        .load(LoadDraft::watts("lamp", Watts::new(6.0)).from("high").voltage(Volts::new(24.0)))
        .text("[group.show]\nkind = \"together\"\nmembers = [\"bell\", \"lamp\"]\n");
    let text = "format = 1\ntitle = \"Puppet cart\"\n\
        [supply.van]\nkind = \"vehicle\"\nsystem = \"12 V\"\ncurrent = \"20 A\"\nkeyed = true\n\
        [switch.main]\nfrom = \"van\"\ncable = \"2 m 12 AWG\"\ncurrent = \"10 A\"\n\
        [diode.guard]\nfrom = \"main\"\nvf = \"400 mV\"\ncurrent = \"8 A\"\n\
        [diode.tvs]\nacross = \"guard\"\nclamps = \"22 V\"\n\
        [converter.eight]\nkind = \"linear\"\nfrom = \"guard\"\noutput = \"5 V\"\ncurrent = \"0.5 A\"\ntheta-ja = \"20 K/W\"\n\
        [converter.high]\nkind = \"boost\"\nfrom = \"guard\"\noutput = \"24 V\"\ncurrent = \"1 A\"\n\
        [link.spare]\nbetween = [\"eight\", \"high\"]\nclosed = false\nresistance = \"20 mΩ\"\n\
        [capacitor.tank]\nacross = \"eight\"\ncapacitance = \"470 µF\"\nesr = \"40 mΩ\"\n\
        [load.bell]\nfrom = \"eight\"\ncurrent = \"100 mA\"\nvoltage = \"5 V\"\n\
        [load.lamp]\nfrom = \"high\"\npower = \"6 W\"\nvoltage = \"24 V\"\n\
        [group.show]\nkind = \"together\"\nmembers = [\"bell\", \"lamp\"]\n";
    the_same(&built, text);
    assert!(built.to_toml().contains("[switch.main]") && built.to_toml().contains("clamps = \"22 V\""));
}

/// Batteries and negotiated sources, and what a draft cannot say by a method is said by its key.
#[test]
fn batteries_and_negotiated_sources_in_code() {
    let battery = Plan::builder("Lantern")
        .supply(SupplyDraft::battery("pack", "li-ion-18650", 3, 2).key("cut-off", "\"9 V\"").key("keyed", "true"))
        .load(LoadDraft::watts("lamp", Watts::new(5.0)).from("pack").cable(Lead::awg(Metres::new(0.5), 18)));
    the_same(
        &battery,
        "format = 1\ntitle = \"Lantern\"\n[supply.pack]\nkind = \"battery\"\ncell = \"li-ion-18650\"\nseries = 3\nparallel = 2\n\
         cut-off = \"9 V\"\nkeyed = true\n[load.lamp]\nfrom = \"pack\"\npower = \"5 W\"\ncable = \"0.5 m 18 AWG\"\n",
    );
    // *idle* draws nothing: *typical* and *worst* have a runtime.
    assert_eq!(battery.build().unwrap().review().runtimes().len(), 2);
    let profiles = [(Volts::new(5.0), Amps::new(3.0)), (Volts::new(9.0), Amps::new(2.2))];
    let negotiated = Plan::builder("Dome").supply(SupplyDraft::negotiated("brick", &profiles, Volts::new(9.0))).load(
        LoadDraft::amps("motor", Amps::new(1.5))
            .from("brick")
            .cable(Lead::mm2(Metres::new(0.5), 0.75))
            .voltage(Volts::new(9.0)),
    );
    the_same(
        &negotiated,
        "format = 1\ntitle = \"Dome\"\n[supply.brick]\nkind = \"negotiated\"\nprofiles = [\"5 V 3 A\", \"9 V 2.2 A\"]\nselected = \"9 V\"\n\
         [load.motor]\nfrom = \"brick\"\ncurrent = \"1.5 A\"\ncable = \"0.5 m 0.75 mm²\"\nvoltage = \"9 V\"\n",
    );
}
