//! Paths of an SVG: transforms, nested groups, reused shapes and styles are another library's work (`usvg`). Nothing is
//! fetched: pictures and references to other files stay out.

use std::collections::BTreeMap;

use usvg::tiny_skia_path::PathSegment;
use usvg::{Group, ImageHrefResolver, Node, Options, Tree};

use super::flat::free;
use super::{Drawing, FileUnit, Line, NEAR, Point};

/// Deepest nesting of groups: the libraries below go down one by one.
const DEEP: usize = 100;
/// Most shapes after what is reused is counted as often as it is shown.
const NODES: usize = 20_000;
/// A larger file has no markers: each corner of each line would show them, bytes.
const MARKED: usize = 100_000;

/// Reads it.
pub fn read(text: &str) -> Result<Drawing, String> {
    if text.contains("<!ENTITY") {
        return Err("This SVG defines entities of its own: save it as plain SVG.".into());
    }
    if nesting(text) > DEEP {
        return Err(format!("This SVG nests its groups more than {DEEP} deep."));
    }
    let cannot = |e: &dyn std::fmt::Display| format!("This SVG cannot be read: {e}.");
    let xml = roxmltree::Document::parse(text).map_err(|e| cannot(&e))?;
    if weight(&xml) > NODES {
        return Err(format!(
            "This SVG shows more than {NODES} shapes, some of them again and again."
        ));
    }
    if text.len() > MARKED && text.contains("<marker") {
        return Err("This SVG puts markers on its lines: leave them out.".into());
    }
    let options = Options {
        resources_dir: None,
        image_href_resolver: ImageHrefResolver {
            resolve_data: Box::new(|_, _, _| None),
            resolve_string: Box::new(|_, _| None),
        },
        ..Options::default()
    };
    let tree = Tree::from_str(text, &options).map_err(|e| cannot(&e))?;
    let (w, h) = (
        f64::from(tree.size().width()),
        f64::from(tree.size().height()),
    );
    let mut lines = Vec::new();
    group(tree.root(), ("", 0), w.max(h) * NEAR, &mut lines);
    for l in &mut lines {
        // A page counts downwards.
        l.points.iter_mut().for_each(|p| p[1] = h - p[1]);
    }
    let sized = physical(xml.root_element());
    Ok(Drawing {
        lines,
        unit: FileUnit::Px,
        sure: sized,
        why: match sized {
            true => "the page says how large it is".into(),
            false => "the page does not say how large it is; 96 dots to the inch are usual".into(),
        },
        left_out: left_out(&xml),
    })
}

/// The page's width is a length of the world, not a number of dots.
fn physical(root: roxmltree::Node) -> bool {
    let width = root.attribute("width").unwrap_or("").trim();
    ["mm", "cm", "in", "pt", "pc", "Q"]
        .iter()
        .any(|u| width.ends_with(u))
}

fn group(g: &Group, (name, deep): (&str, usize), near: f64, out: &mut Vec<Line>) {
    let name = if g.id().is_empty() { name } else { g.id() };
    for node in g.children() {
        match node {
            Node::Group(inner) if deep < DEEP => group(inner, (name, deep + 1), near, out),
            Node::Path(path) => {
                let own = if path.id().is_empty() {
                    name
                } else {
                    path.id()
                };
                outline(path, own, near, out);
            }
            _ => {}
        }
    }
}

fn outline(path: &usvg::Path, name: &str, near: f64, out: &mut Vec<Line>) {
    let t = path.abs_transform();
    let flat = |p: usvg::tiny_skia_path::Point| -> Point {
        let (x, y) = (f64::from(p.x), f64::from(p.y));
        [
            f64::from(t.sx) * x + f64::from(t.kx) * y + f64::from(t.tx),
            f64::from(t.ky) * x + f64::from(t.sy) * y + f64::from(t.ty),
        ]
    };
    let name = if name.is_empty() { "path" } else { name };
    let mut open: Vec<Point> = Vec::new();
    let mut end = |open: &mut Vec<Point>, closed: bool| {
        let points = std::mem::take(open);
        if points.len() > 1 {
            out.push(Line {
                name: name.into(),
                points,
                closed,
            });
        }
    };
    for s in path.data().segments() {
        let a = open.last().copied().unwrap_or([0.0, 0.0]);
        match s {
            PathSegment::MoveTo(p) => {
                end(&mut open, false);
                open.push(flat(p));
            }
            PathSegment::LineTo(p) => open.push(flat(p)),
            PathSegment::QuadTo(p, q) => {
                let (p, q) = (flat(p), flat(q));
                let at = |t: f64| {
                    let s = 1.0 - t;
                    [0, 1].map(|k| s * s * a[k] + 2.0 * s * t * p[k] + t * t * q[k])
                };
                open.extend(free(&at, 0.0, 1.0, near).into_iter().skip(1));
            }
            PathSegment::CubicTo(p, q, r) => {
                let (p, q, r) = (flat(p), flat(q), flat(r));
                let at = |t: f64| {
                    let s = 1.0 - t;
                    [0, 1].map(|k| {
                        s * s * s * a[k]
                            + 3.0 * s * s * t * p[k]
                            + 3.0 * s * t * t * q[k]
                            + t * t * t * r[k]
                    })
                };
                open.extend(free(&at, 0.0, 1.0, near).into_iter().skip(1));
            }
            PathSegment::Close => end(&mut open, true),
        }
    }
    end(&mut open, false);
}

/// How deep tags are nested, told from the text alone.
fn nesting(text: &str) -> usize {
    let (mut depth, mut most) = (0_usize, 0_usize);
    let mut rest = text;
    while let Some(i) = rest.find('<') {
        rest = &rest[i..];
        let skip = |end: &str| rest.find(end).map_or(rest.len(), |n| n + end.len());
        let n = if rest.starts_with("<!--") {
            skip("-->")
        } else if rest.starts_with("<![CDATA[") {
            skip("]]>")
        } else {
            let n = tag(rest);
            let own = &rest[..n];
            if own.starts_with("</") {
                depth = depth.saturating_sub(1);
            } else if !own.ends_with("/>") && !own.starts_with("<!") && !own.starts_with("<?") {
                depth += 1;
                most = most.max(depth);
            }
            n
        };
        rest = &rest[n..];
    }
    most
}

/// Length of the tag that a text begins with, quotes looked through.
fn tag(text: &str) -> usize {
    let mut quote = None;
    for (i, c) in text.char_indices() {
        match (quote, c) {
            (None, '"' | '\'') => quote = Some(c),
            (Some(q), c) if c == q => quote = None,
            (None, '>') => return i + 1,
            _ => {}
        }
    }
    text.len()
}

/// How many elements are shown, with what is reused as often as it is.
fn weight(xml: &roxmltree::Document) -> usize {
    type Node<'a, 'b> = roxmltree::Node<'a, 'b>;
    struct Count<'a, 'b> {
        ids: BTreeMap<&'a str, Node<'a, 'b>>,
        known: BTreeMap<usize, usize>,
    }
    impl<'a, 'b> Count<'a, 'b> {
        fn of(&mut self, node: Node<'a, 'b>, deep: usize) -> usize {
            if let Some(n) = self.known.get(&node.id().get_usize()) {
                return *n;
            }
            if deep > 2 * DEEP {
                return usize::MAX;
            }
            // What holds itself is shown once.
            self.known.insert(node.id().get_usize(), 0);
            let href = node.attributes().find(|a| a.name() == "href");
            let shown = href.filter(|_| node.tag_name().name() == "use");
            let shown = shown.and_then(|a| self.ids.get(a.value().strip_prefix('#')?).copied());
            let inner = node.children().filter(Node::is_element).chain(shown);
            let inner: Vec<Node> = inner.collect();
            let sum = inner
                .into_iter()
                .fold(1_usize, |s, c| s.saturating_add(self.of(c, deep + 1)));
            self.known.insert(node.id().get_usize(), sum);
            sum
        }
    }
    let ids = xml
        .descendants()
        .filter_map(|n| Some((n.attribute("id")?, n)));
    let mut count = Count {
        ids: ids.collect(),
        known: BTreeMap::new(),
    };
    count.of(xml.root_element(), 0)
}

/// What is no path: words, pictures, scripts.
fn left_out(xml: &roxmltree::Document) -> BTreeMap<String, usize> {
    let mut out = BTreeMap::new();
    for n in xml.descendants().filter(roxmltree::Node::is_element) {
        let what = match n.tag_name().name() {
            "text" => "text",
            "image" => "a picture",
            "script" => "a script",
            "foreignObject" => "a foreign object",
            _ => continue,
        };
        *out.entry(what.to_string()).or_default() += 1;
    }
    out
}
