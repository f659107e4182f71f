//! A photo as it is read: PNG or JPEG, turned as the camera says, light as it fell.

use std::io::Cursor;

use jigfit_core::geometry::Point;
use zune_core::bytestream::ZCursor;
use zune_core::colorspace::ColorSpace;
use zune_core::options::DecoderOptions;
use zune_jpeg::JpegDecoder;

/// Largest file, bytes.
pub const LARGEST: usize = 40 << 20;
/// Most pixels, and most along a side.
const PIXELS: usize = 50_000_000;
const ALONG: usize = 12_000;
/// Fewer along the shorter side show no edge well enough.
const FEWEST: usize = 600;

/// A photo: rows from above, three colours of 0 to 255 a pixel.
#[derive(Debug, Clone, PartialEq)]
pub struct Picture {
    /// Pixels along a row.
    pub w: usize,
    /// Rows.
    pub h: usize,
    /// Red, green, blue.
    pub rgb: Vec<u8>,
}

impl Picture {
    /// Reads a file.
    ///
    /// # Errors
    /// It is no such file, or too large, too small or damaged: in a sentence.
    pub fn read(bytes: &[u8]) -> Result<Picture, String> {
        if bytes.len() > LARGEST {
            return Err(format!("The photo is larger than {} MB.", LARGEST >> 20));
        }
        let plain = match bytes {
            [0x89, b'P', b'N', b'G', ..] => png(bytes),
            [0xff, 0xd8, ..] => jpeg(bytes),
            _ => Err("This is neither a JPEG nor a PNG. Phones save JPEG when they are set to the most compatible form.".into()),
        }?;
        Ok(plain.turned(turn(bytes)))
    }

    /// As a PNG file.
    ///
    /// # Errors
    /// It has no pixels.
    pub fn png(&self) -> Result<Vec<u8>, String> {
        let mut out = vec![];
        let size = [self.w, self.h].map(|v| u32::try_from(v).unwrap_or(0));
        let mut encoder = png::Encoder::new(&mut out, size[0], size[1]);
        encoder.set_color(png::ColorType::Rgb);
        encoder.set_depth(png::BitDepth::Eight);
        encoder.set_compression(png::Compression::Fast);
        let mut writer = encoder.write_header().map_err(|e| e.to_string())?;
        writer
            .write_image_data(&self.rgb)
            .map_err(|e| e.to_string())?;
        writer.finish().map_err(|e| e.to_string())?;
        Ok(out)
    }

    /// How light a place is, 0 to 1, between the middles of four pixels; red, green and blue as light, not as they are stored.
    pub fn light(&self, [x, y]: Point) -> [f64; 3] {
        let (x, y) = (x - 0.5, y - 0.5);
        let (x, y) = (
            x.clamp(0.0, (self.w - 1) as f64),
            y.clamp(0.0, (self.h - 1) as f64),
        );
        let (i, k) = (x.floor() as usize, y.floor() as usize);
        let (fx, fy) = (x - i as f64, y - k as f64);
        let (i2, k2) = ((i + 1).min(self.w - 1), (k + 1).min(self.h - 1));
        let mut out = [0.0; 3];
        for (c, out) in out.iter_mut().enumerate() {
            let at = |i: usize, k: usize| LIGHT[usize::from(self.rgb[3 * (k * self.w + i) + c])];
            *out = (at(i, k) * (1.0 - fx) + at(i2, k) * fx) * (1.0 - fy)
                + (at(i, k2) * (1.0 - fx) + at(i2, k2) * fx) * fy;
        }
        out
    }

    /// How light a place is as a whole.
    pub fn grey(&self, at: Point) -> f64 {
        let [r, g, b] = self.light(at);
        0.2126 * r + 0.7152 * g + 0.0722 * b
    }

    fn turned(self, turn: u32) -> Picture {
        if !(2..=8).contains(&turn) {
            return self;
        }
        let (w, h) = match turn {
            5..=8 => (self.h, self.w),
            _ => (self.w, self.h),
        };
        let mut rgb = Vec::with_capacity(self.rgb.len());
        for y in 0..h {
            for x in 0..w {
                let (a, b) = match turn {
                    2 => (self.w - 1 - x, y),
                    3 => (self.w - 1 - x, self.h - 1 - y),
                    4 => (x, self.h - 1 - y),
                    5 => (y, x),
                    6 => (y, self.h - 1 - x),
                    7 => (self.w - 1 - y, self.h - 1 - x),
                    _ => (self.w - 1 - y, x),
                };
                let k = 3 * (b * self.w + a);
                rgb.extend_from_slice(&self.rgb[k..k + 3]);
            }
        }
        Picture { w, h, rgb }
    }
}

/// Light of a stored brightness (IEC 61966-2-1, from memory).
static LIGHT: std::sync::LazyLock<[f64; 256]> = std::sync::LazyLock::new(|| {
    std::array::from_fn(|v| {
        let v = v as f64 / 255.0;
        match v <= 0.040_45 {
            true => v / 12.92,
            false => ((v + 0.055) / 1.055).powf(2.4),
        }
    })
});

/// Which way the camera was held, as Exif says: 1 is upright, 3, 6 and 8 turned, the others mirrored.
fn turn(bytes: &[u8]) -> u32 {
    let read = exif::Reader::new().read_from_container(&mut Cursor::new(bytes));
    let told = read.ok().and_then(|e| {
        let field = e.get_field(exif::Tag::Orientation, exif::In::PRIMARY)?;
        field.value.get_uint(0)
    });
    told.unwrap_or(1)
}

/// Bounds of what would be unpacked, before it is.
fn bounded(w: usize, h: usize) -> Result<(), String> {
    if w > ALONG || h > ALONG || w * h > PIXELS {
        return Err(format!(
            "The photo has {w} × {h} pixels; at most {} million, and {ALONG} along a side.",
            PIXELS / 1_000_000
        ));
    }
    if w.min(h) < FEWEST {
        return Err(format!(
            "The photo has only {w} × {h} pixels. Take the one that the camera saved, not a preview of it."
        ));
    }
    Ok(())
}

const DAMAGED: &str = "The photo cannot be read to its end; it is damaged or was cut off. Copy it from the camera again.";

fn png(bytes: &[u8]) -> Result<Picture, String> {
    let limits = png::Limits { bytes: 4 * PIXELS };
    let mut decoder = png::Decoder::new_with_limits(Cursor::new(bytes), limits);
    decoder.set_transformations(png::Transformations::normalize_to_color8());
    let mut reader = decoder.read_info().map_err(|_| DAMAGED)?;
    let (w, h) = (reader.info().width as usize, reader.info().height as usize);
    bounded(w, h)?;
    let mut raw = vec![0; reader.output_buffer_size()];
    let frame = reader.next_frame(&mut raw).map_err(|_| DAMAGED)?;
    raw.truncate(frame.buffer_size());
    let samples = frame.color_type.samples();
    let rgb = match samples {
        3 => raw,
        4 => raw
            .chunks_exact(4)
            .flat_map(|p| [p[0], p[1], p[2]])
            .collect(),
        n => raw.chunks_exact(n).flat_map(|p| [p[0]; 3]).collect(),
    };
    whole(w, h, rgb)
}

fn jpeg(bytes: &[u8]) -> Result<Picture, String> {
    let options = DecoderOptions::default()
        .set_max_width(ALONG)
        .set_max_height(ALONG)
        .set_strict_mode(true)
        .jpeg_set_out_colorspace(ColorSpace::RGB);
    let mut decoder = JpegDecoder::new_with_options(ZCursor::new(bytes), options);
    decoder.decode_headers().map_err(|_| DAMAGED)?;
    let (w, h) = decoder.dimensions().ok_or(DAMAGED)?;
    bounded(w, h)?;
    let rgb = decoder.decode().map_err(|_| DAMAGED)?;
    whole(w, h, rgb)
}

fn whole(w: usize, h: usize, rgb: Vec<u8>) -> Result<Picture, String> {
    match rgb.len() == 3 * w * h {
        true => Ok(Picture { w, h, rgb }),
        false => Err(DAMAGED.into()),
    }
}
