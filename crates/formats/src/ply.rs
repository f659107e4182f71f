//! PLY: point clouds in, the measured vehicle out. ASCII and binary of both byte orders.
//!
//! Read by hand rather than by a library because files come from anywhere: what the header promises is
//! checked against the bytes that are there before anything is set aside for it.

use std::fmt::Write as _;

use crate::FormatError;

/// The most points read.
const MAX_POINTS: usize = 20_000_000;
/// The longest header, bytes.
const MAX_HEADER: usize = 64 << 10;

/// Number types of the format, with their sizes.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Type {
    I8,
    U8,
    I16,
    U16,
    I32,
    U32,
    F32,
    F64,
}

#[derive(Debug, Clone, PartialEq)]
enum Property {
    One(Type, String),
    List(Type, Type),
}

#[derive(Debug, Clone)]
struct Element {
    name: String,
    count: usize,
    properties: Vec<Property>,
}

#[derive(Debug, Clone, Copy, PartialEq)]
enum Order {
    Ascii,
    Little,
    Big,
}

fn bad(detail: impl Into<String>) -> FormatError {
    FormatError {
        format: "PLY",
        detail: detail.into(),
    }
}

impl Type {
    fn of(word: &str) -> Result<Type, FormatError> {
        Ok(match word {
            "char" | "int8" => Type::I8,
            "uchar" | "uint8" => Type::U8,
            "short" | "int16" => Type::I16,
            "ushort" | "uint16" => Type::U16,
            "int" | "int32" => Type::I32,
            "uint" | "uint32" => Type::U32,
            "float" | "float32" => Type::F32,
            "double" | "float64" => Type::F64,
            other => return Err(bad(format!("there is no number type \"{other}\""))),
        })
    }

    fn size(self) -> usize {
        match self {
            Type::I8 | Type::U8 => 1,
            Type::I16 | Type::U16 => 2,
            Type::I32 | Type::U32 | Type::F32 => 4,
            Type::F64 => 8,
        }
    }

    fn read(self, bytes: &[u8], order: Order) -> f64 {
        let mut b = [0u8; 8];
        let n = self.size();
        b[..n].copy_from_slice(&bytes[..n]);
        if order == Order::Big {
            b[..n].reverse();
        }
        let four = [b[0], b[1], b[2], b[3]];
        match self {
            Type::I8 => f64::from(i8::from_le_bytes([b[0]])),
            Type::U8 => f64::from(b[0]),
            Type::I16 => f64::from(i16::from_le_bytes([b[0], b[1]])),
            Type::U16 => f64::from(u16::from_le_bytes([b[0], b[1]])),
            Type::I32 => f64::from(i32::from_le_bytes(four)),
            Type::U32 => f64::from(u32::from_le_bytes(four)),
            Type::F32 => f64::from(f32::from_le_bytes(four)),
            Type::F64 => f64::from_le_bytes(b),
        }
    }
}

/// The points of a PLY file, in its own units and order. Points with a coordinate that is not a finite
/// number are left out.
///
/// # Errors
/// Not a PLY file, a header that makes no sense, fewer bytes than the header promises, no vertices.
pub fn read(bytes: &[u8]) -> Result<Vec<[f32; 3]>, FormatError> {
    let (order, elements, body) = header(bytes)?;
    match order {
        Order::Ascii => ascii(&elements, body),
        _ => binary(&elements, body, order),
    }
}

fn header(bytes: &[u8]) -> Result<(Order, Vec<Element>, &[u8]), FormatError> {
    let mut at = 0;
    let mut line = || -> Result<&str, FormatError> {
        let rest = &bytes[at..bytes.len().min(MAX_HEADER)];
        let end = rest
            .iter()
            .position(|b| *b == b'\n')
            .ok_or_else(|| bad("its header does not end"))?;
        at += end + 1;
        let text = std::str::from_utf8(&rest[..end]).map_err(|_| bad("its header is no text"))?;
        Ok(text.trim_end_matches('\r').trim())
    };
    if line()? != "ply" {
        return Err(bad("it does not begin with \"ply\""));
    }
    let mut order = None;
    let mut elements: Vec<Element> = Vec::new();
    loop {
        let text = line()?;
        let words: Vec<&str> = text.split_whitespace().collect();
        match words.as_slice() {
            ["format", kind, _] => {
                order = Some(match *kind {
                    "ascii" => Order::Ascii,
                    "binary_little_endian" => Order::Little,
                    "binary_big_endian" => Order::Big,
                    other => return Err(bad(format!("there is no format \"{other}\""))),
                });
            }
            ["comment" | "obj_info", ..] | [] => {}
            ["element", name, count] => elements.push(Element {
                name: (*name).into(),
                count: count
                    .parse()
                    .map_err(|_| bad(format!("\"{count}\" is no number of elements")))?,
                properties: vec![],
            }),
            ["property", rest @ ..] => {
                let element = elements
                    .last_mut()
                    .ok_or_else(|| bad("a property stands before any element"))?;
                element.properties.push(match rest {
                    ["list", n, each, _] => Property::List(Type::of(n)?, Type::of(each)?),
                    [kind, name] => Property::One(Type::of(kind)?, (*name).into()),
                    _ => return Err(bad(format!("this header line makes no sense: {text}"))),
                });
            }
            ["end_header"] => break,
            _ => return Err(bad(format!("this header line makes no sense: {text}"))),
        }
    }
    let order = order.ok_or_else(|| bad("it does not say its format"))?;
    Ok((order, elements, &bytes[at..]))
}

/// Which properties of the vertex are x, y and z.
fn axes(e: &Element) -> Result<[usize; 3], FormatError> {
    if e.count > MAX_POINTS {
        return Err(bad(format!(
            "{} points are too many: at most {MAX_POINTS}",
            e.count
        )));
    }
    let find = |axis: &str| {
        e.properties
            .iter()
            .position(|p| matches!(p, Property::One(_, name) if name == axis))
            .ok_or_else(|| bad(format!("its vertices have no {axis}")))
    };
    Ok([find("x")?, find("y")?, find("z")?])
}

fn short() -> FormatError {
    bad("it ends before the points its header promises")
}

fn keep(out: &mut Vec<[f32; 3]>, p: [f64; 3]) {
    let p = p.map(|v| v as f32);
    if p.iter().all(|v| v.is_finite()) {
        out.push(p);
    }
}

fn ascii(elements: &[Element], body: &[u8]) -> Result<Vec<[f32; 3]>, FormatError> {
    let text = std::str::from_utf8(body).map_err(|_| bad("its points are no text"))?;
    let mut lines = text.lines().filter(|l| !l.trim().is_empty());
    for e in elements {
        if e.name != "vertex" {
            for _ in 0..e.count {
                lines.next().ok_or_else(short)?;
            }
            continue;
        }
        let axes = axes(e)?;
        // A point takes six characters at least: a count beyond that is not believed.
        let mut out = Vec::with_capacity(e.count.min(body.len() / 6));
        for _ in 0..e.count {
            let words: Vec<&str> = lines.next().ok_or_else(short)?.split_whitespace().collect();
            let mut p = [0.0; 3];
            for (v, at) in p.iter_mut().zip(axes) {
                let word = words.get(at).ok_or_else(short)?;
                *v = word
                    .parse()
                    .map_err(|_| bad(format!("\"{word}\" is no number")))?;
            }
            keep(&mut out, p);
        }
        return Ok(out);
    }
    Err(bad("it has no vertices"))
}

fn binary(elements: &[Element], body: &[u8], order: Order) -> Result<Vec<[f32; 3]>, FormatError> {
    let mut at = 0usize;
    for e in elements {
        let fixed: Option<Vec<usize>> = e
            .properties
            .iter()
            .map(|p| match p {
                Property::One(t, _) => Some(t.size()),
                Property::List(..) => None,
            })
            .collect();
        let Some(sizes) = fixed else {
            if e.name == "vertex" {
                return Err(bad("vertices with lists are not read"));
            }
            at = past_lists(e, body, at, order)?;
            continue;
        };
        let stride: usize = sizes.iter().sum();
        let length = stride.checked_mul(e.count).ok_or_else(short)?;
        let end = at
            .checked_add(length)
            .filter(|end| *end <= body.len())
            .ok_or_else(short)?;
        if e.name != "vertex" {
            at = end;
            continue;
        }
        let wanted = axes(e)?.map(|i| {
            let kind = match &e.properties[i] {
                Property::One(t, _) | Property::List(_, t) => *t,
            };
            (sizes[..i].iter().sum::<usize>(), kind)
        });
        let mut out = Vec::with_capacity(e.count);
        for one in body[at..end].chunks_exact(stride) {
            keep(
                &mut out,
                wanted.map(|(from, kind)| kind.read(&one[from..], order)),
            );
        }
        return Ok(out);
    }
    Err(bad("it has no vertices"))
}

/// Where an element with lists ends.
fn past_lists(e: &Element, body: &[u8], from: usize, order: Order) -> Result<usize, FormatError> {
    let mut at = from;
    for _ in 0..e.count {
        let before = at;
        for p in &e.properties {
            let step = match p {
                Property::One(t, _) => t.size(),
                Property::List(n, each) => {
                    let head = body
                        .get(at..)
                        .filter(|b| b.len() >= n.size())
                        .ok_or_else(short)?;
                    let count = n.read(head, order);
                    if !(count >= 0.0 && count <= body.len() as f64) {
                        return Err(short());
                    }
                    n.size() + count as usize * each.size()
                }
            };
            at = at
                .checked_add(step)
                .filter(|a| *a <= body.len())
                .ok_or_else(short)?;
        }
        // An element of nothing would never end a huge count.
        if at == before {
            return Err(bad("an element has no properties"));
        }
    }
    Ok(at)
}

/// A mesh as ASCII PLY, millimetres: points and faces by number.
pub fn write(points: &[[f64; 3]], faces: &[Vec<usize>], comment: &str) -> Vec<u8> {
    let mut out = String::from("ply\nformat ascii 1.0\n");
    for line in comment.lines() {
        let _ = writeln!(out, "comment {line}");
    }
    let _ = writeln!(out, "element vertex {}", points.len());
    out.push_str("property float x\nproperty float y\nproperty float z\n");
    let _ = writeln!(out, "element face {}", faces.len());
    out.push_str("property list uchar int vertex_indices\nend_header\n");
    for [x, y, z] in points {
        let _ = writeln!(out, "{x:.2} {y:.2} {z:.2}");
    }
    for f in faces {
        let list: Vec<String> = f.iter().map(usize::to_string).collect();
        let _ = writeln!(out, "{} {}", f.len(), list.join(" "));
    }
    out.into_bytes()
}
