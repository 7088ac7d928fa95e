//! The same picture as pixels, with the fonts that come along.

use resvg::tiny_skia::{Pixmap, Transform};
use resvg::usvg::{Options, Tree, fontdb};

use super::FigureError;

const REGULAR: &[u8] = include_bytes!("../../fonts/DejaVuSans.ttf");
const BOLD: &[u8] = include_bytes!("../../fonts/DejaVuSans-Bold.ttf");
const FAMILY: &str = "DejaVu Sans";

/// Larger pictures are refused: a side of this many pixels takes a gigabyte.
const MOST_PIXELS: u32 = 16_000;

/// Draws an SVG as PNG, pixel for pixel.
///
/// # Errors
/// [`FigureError`] where the text is no SVG or the picture would be too large.
pub fn png(svg: &str) -> Result<Vec<u8>, FigureError> {
    let mut fonts = fontdb::Database::new();
    fonts.load_font_data(REGULAR.to_vec());
    fonts.load_font_data(BOLD.to_vec());
    // Without this no text is drawn at all.
    fonts.set_sans_serif_family(FAMILY);
    let options = Options { font_family: FAMILY.into(), fontdb: std::sync::Arc::new(fonts), ..Options::default() };
    let tree = Tree::from_str(svg, &options).map_err(|e| FigureError::Pixels(e.to_string()))?;
    let size = tree.size().to_int_size();
    if size.width() > MOST_PIXELS || size.height() > MOST_PIXELS {
        return Err(FigureError::Pixels(format!("{} by {} pixels are too many", size.width(), size.height())));
    }
    let mut pixels =
        Pixmap::new(size.width(), size.height()).ok_or_else(|| FigureError::Pixels("it is empty".into()))?;
    resvg::render(&tree, Transform::identity(), &mut pixels.as_mut());
    pixels.encode_png().map_err(|e| FigureError::Pixels(e.to_string()))
}
