//! A small writer of SVG: shapes and texts with attributes, everything escaped.

use std::fmt::Write as _;

/// A picture in the making.
pub(crate) struct Svg {
    out: String,
}

/// Where a text stands against its point.
#[derive(Clone, Copy)]
pub(crate) enum Anchor {
    Start,
    Middle,
    End,
}

/// How a text looks.
#[derive(Clone, Copy)]
pub(crate) struct Type<'a> {
    pub size: f64,
    pub bold: bool,
    pub colour: &'a str,
    pub anchor: Anchor,
}

/// How a line or an outline looks.
#[derive(Clone, Copy)]
pub(crate) struct Pen<'a> {
    pub colour: &'a str,
    pub width: f64,
    /// Lengths of dashes and gaps, or nothing.
    pub dash: &'a str,
}

/// Text for XML.
pub(crate) fn escape(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for c in text.chars() {
        match c {
            '&' => out.push_str("&amp;"),
            '<' => out.push_str("&lt;"),
            '>' => out.push_str("&gt;"),
            '"' => out.push_str("&quot;"),
            // What XML does not allow.
            c if c.is_control() => out.push(' '),
            c => out.push(c),
        }
    }
    out
}

impl Svg {
    pub fn new(width: f64, height: f64, title: &str, description: &str) -> Self {
        let mut out = String::new();
        let _ = writeln!(
            out,
            "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{width:.0}\" height=\"{height:.0}\" viewBox=\"0 0 {width:.0} \
             {height:.0}\" font-family=\"DejaVu Sans, Verdana, sans-serif\" role=\"img\">"
        );
        let _ = writeln!(out, "<title>{}</title>\n<desc>{}</desc>", escape(title), escape(description));
        let _ = writeln!(out, "<rect width=\"100%\" height=\"100%\" fill=\"#fbfaf7\"/>");
        Self { out }
    }

    /// A rectangle: left, top, width, height, corner radius.
    pub fn rect(&mut self, [x, y, w, h, radius]: [f64; 5], fill: &str, pen: Option<Pen<'_>>) {
        let stroke = pen.map_or_else(String::new, |p| stroke(&p));
        let _ = writeln!(
            self.out,
            "<rect x=\"{x:.1}\" y=\"{y:.1}\" width=\"{w:.1}\" height=\"{h:.1}\" rx=\"{radius:.1}\" fill=\"{fill}\"{stroke}/>"
        );
    }

    /// A line that leaves and arrives level.
    pub fn bend(&mut self, from: (f64, f64), to: (f64, f64), pen: &Pen<'_>) {
        let middle = (from.0 + to.0) / 2.0;
        self.curve(from, (middle, from.1), (middle, to.1), to, pen);
    }

    pub fn curve(&mut self, from: (f64, f64), c1: (f64, f64), c2: (f64, f64), to: (f64, f64), pen: &Pen<'_>) {
        let _ = writeln!(
            self.out,
            "<path d=\"M {:.1} {:.1} C {:.1} {:.1} {:.1} {:.1} {:.1} {:.1}\" fill=\"none\"{}/>",
            from.0,
            from.1,
            c1.0,
            c1.1,
            c2.0,
            c2.1,
            to.0,
            to.1,
            stroke(pen)
        );
    }

    /// A line through points.
    pub fn line(&mut self, points: &[(f64, f64)], pen: &Pen<'_>) {
        let _ = writeln!(self.out, "<polyline points=\"{}\" fill=\"none\"{}/>", joined(points), stroke(pen));
    }

    /// A filled shape.
    pub fn shape(&mut self, points: &[(f64, f64)], fill: &str) {
        let _ = writeln!(self.out, "<polygon points=\"{}\" fill=\"{fill}\"/>", joined(points));
    }

    pub fn dot(&mut self, (x, y): (f64, f64), radius: f64, fill: &str) {
        let _ = writeln!(self.out, "<circle cx=\"{x:.1}\" cy=\"{y:.1}\" r=\"{radius:.1}\" fill=\"{fill}\"/>");
    }

    pub fn text(&mut self, (x, y): (f64, f64), text: &str, look: &Type<'_>) {
        let weight = if look.bold { " font-weight=\"bold\"" } else { "" };
        let anchor = match look.anchor {
            Anchor::Start => "start",
            Anchor::Middle => "middle",
            Anchor::End => "end",
        };
        let _ = writeln!(
            self.out,
            "<text x=\"{x:.1}\" y=\"{y:.1}\" font-size=\"{:.1}\" fill=\"{}\" text-anchor=\"{anchor}\"{weight}>{}</text>",
            look.size,
            look.colour,
            escape(text)
        );
    }

    pub fn finish(mut self) -> String {
        self.out.push_str("</svg>\n");
        self.out
    }
}

fn joined(points: &[(f64, f64)]) -> String {
    points.iter().map(|(x, y)| format!("{x:.1},{y:.1}")).collect::<Vec<_>>().join(" ")
}

fn stroke(pen: &Pen<'_>) -> String {
    let dash = if pen.dash.is_empty() { String::new() } else { format!(" stroke-dasharray=\"{}\"", pen.dash) };
    format!(" stroke=\"{}\" stroke-width=\"{:.1}\"{dash}", pen.colour, pen.width)
}

/// About how wide a text is; the font's letters differ, so a little is added.
pub(crate) fn width_of(text: &str, size: f64, bold: bool) -> f64 {
    let em = if bold { 0.65 } else { 0.575 };
    text.chars().count() as f64 * size * em
}

/// A text shortened to fit. Its middle goes: names that begin alike differ in their ends.
pub(crate) fn fitted(text: &str, size: f64, bold: bool, room: f64) -> String {
    if width_of(text, size, bold) <= room {
        return text.to_owned();
    }
    let letters: Vec<char> = text.chars().collect();
    let kept = ((room / width_of("m", size, bold)).floor().max(3.0) as usize - 1).min(letters.len());
    let (head, tail) = (&letters[..kept - kept / 2], &letters[letters.len() - kept / 2..]);
    format!("{}…{}", head.iter().collect::<String>(), tail.iter().collect::<String>())
}
