//! Photos as files.

use jigfit_photo::picture::Picture;

/// A JPEG whose Exif says that it is to be turned: 1 as it is, 6 by a quarter to the right.
pub fn jpeg(p: &Picture, turn: u8) -> Vec<u8> {
    let mut out = vec![];
    let mut e = jpeg_encoder::Encoder::new(&mut out, 92);
    let exif = [
        b"Exif\0\0MM\0*\0\0\0\x08\0\x01\x01\x12\0\x03\0\0\0\x01\0".as_slice(),
        &[turn, 0, 0, 0, 0, 0, 0],
    ];
    e.add_app_segment(1, &exif.concat()).unwrap();
    let (w, h) = (p.w as u16, p.h as u16);
    e.encode(&p.rgb, w, h, jpeg_encoder::ColorType::Rgb)
        .unwrap();
    out
}

/// The same, turned by a quarter to the left: what a camera stores that was held upright.
pub fn lying(p: &Picture) -> Picture {
    let (w, h) = (p.h, p.w);
    let mut rgb = Vec::with_capacity(p.rgb.len());
    for y in 0..h {
        for x in 0..w {
            let k = 3 * (x * p.w + p.w - 1 - y);
            rgb.extend_from_slice(&p.rgb[k..k + 3]);
        }
    }
    Picture { w, h, rgb }
}
