//! What firmware is reported and what it can do: the firmware limit, frames per second, pixels on a line.

use crate::quantity::units::{Amps, Fraction, Quantity, Seconds};

/// Something on a strip's way that bounds its current.
#[derive(Clone, Debug, PartialEq)]
pub struct PathLimit {
    /// Its name.
    pub name: String,
    /// Its rating.
    pub limit: Amps,
    /// The share of it that may be used: headroom or load factor taken off.
    pub usable: Fraction,
    /// What else flows through it.
    pub other: Amps,
    /// Amps through it for each ampere of the strip: 1 on the same rail, less before a converter that steps down, less
    /// where only a part of the strip is fed over it.
    pub share: f64,
}

/// The largest firmware limit of a strip.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct FirmwareLimit {
    /// The firmware limit: what firmware counts, at most full white.
    pub limit: Amps,
    /// What bounds it; `None` where full white does.
    pub binding: Option<String>,
    /// The share of full light that it leaves, 0 to 1.
    pub brightness: Fraction,
    /// The firmware limit shared out over the pixels.
    pub per_pixel: Amps,
}

/// The largest firmware limit of a strip of `pixels`, each of `quiescent` when dark and `full` at full white:
/// the least (limit · usable − other)/share.
///
/// `None` where there is no pixel, or where not even the dark strip fits.
///
/// ```
/// use modest_ohm::size::{self, PathLimit};
/// use modest_ohm::units::{Amps, Fraction};
/// let five = PathLimit {
///     name: "five".into(),
///     limit: Amps::new(5.0),
///     usable: Fraction::new(0.8),
///     other: Amps::new(0.35),
///     share: 1.0,
/// };
/// let set = size::firmware_limit(&[five], 120, Amps::new(0.001), Amps::new(0.061)).unwrap();
/// assert_eq!(set.limit.to_string(), "3.65 A");
/// assert_eq!(set.brightness.to_string(), "49 %");
/// ```
#[must_use]
pub fn firmware_limit(limits: &[PathLimit], pixels: usize, quiescent: Amps, full: Amps) -> Option<FirmwareLimit> {
    let (dark, bright) = (quiescent * pixels as f64, full * pixels as f64);
    let of = |l: &PathLimit| (l.limit.get() * l.usable.get() - l.other.get()) / l.share.max(1e-12);
    let least = limits.iter().map(|l| (of(l), l)).reduce(|a, b| if b.0 < a.0 { b } else { a });
    let (firmware_limit, binding) = match least {
        Some((amps, limit)) if amps < bright.get() => (Amps::new(amps), Some(limit.name.clone())),
        _ => (bright, None),
    };
    if pixels == 0 || firmware_limit < dark {
        return None;
    }
    let light = if bright > dark { (firmware_limit - dark) / (bright - dark) } else { 1.0 };
    Some(FirmwareLimit {
        limit: firmware_limit,
        binding,
        brightness: Fraction::new(light),
        per_pixel: firmware_limit / pixels as f64,
    })
}

/// How pixels are told what to show.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PixelTiming {
    /// Bits of one pixel.
    pub bits: usize,
    /// The time of a bit.
    pub bit: Seconds,
    /// The pause that ends a frame.
    pub reset: Seconds,
    /// Bits that a frame begins with.
    pub start_bits: usize,
    /// Further bits for each pixel at the end of a frame: half a bit for clocked pixels.
    pub end_bits_per_pixel: f64,
}

impl PixelTiming {
    /// One wire at 800 kHz: 1.25 µs a bit, 300 µs of pause (typical of the newer chips; older ones need 50 µs).
    #[must_use]
    pub fn one_wire(colours: usize) -> Self {
        Self {
            bits: 8 * colours,
            bit: Seconds::new(1.25e-6),
            reset: Seconds::new(300e-6),
            start_bits: 0,
            end_bits_per_pixel: 0.0,
        }
    }

    /// Clock and data: 32 bits a pixel, 32 bits before the first, half a clock a pixel after the last.
    #[must_use]
    pub fn clocked(bit: Seconds) -> Self {
        Self { bits: 32, bit, reset: Seconds::new(0.0), start_bits: 32, end_bits_per_pixel: 0.5 }
    }

    fn pixel_s(&self) -> f64 {
        (self.bits as f64 + self.end_bits_per_pixel) * self.bit.get()
    }

    fn fixed_s(&self) -> f64 {
        self.start_bits as f64 * self.bit.get() + self.reset.get()
    }
}

/// The time of one frame of a line of pixels.
///
/// ```
/// use modest_ohm::size::{self, PixelTiming};
/// // 600 pixels × 24 bits × 1.25 µs + 300 µs
/// assert_eq!(size::frame(PixelTiming::one_wire(3), 600).to_string(), "18.3 ms");
/// ```
#[must_use]
pub fn frame(timing: PixelTiming, pixels: usize) -> Seconds {
    Seconds::from_si(pixels as f64 * timing.pixel_s() + timing.fixed_s())
}

/// The most pixels on one line that still get so many frames a second.
///
/// ```
/// use modest_ohm::size::{self, PixelTiming};
/// assert_eq!(size::pixels_at(PixelTiming::one_wire(3), 30.0), 1101);
/// ```
#[must_use]
pub fn pixels_at(timing: PixelTiming, frames_per_second: f64) -> usize {
    let left = 1.0 / frames_per_second.max(1e-9) - timing.fixed_s();
    // A frame that fits exactly counts.
    (left / timing.pixel_s() + 1e-9).floor().max(0.0) as usize
}
