//! The tape language: what a person reads off a tape, and sums of it.
//!
//! `23 3/16`, `23-3/16`, `7' 2 1/2"`, `61,2 cm`, `48/2 - 1/16`, `(3/4 + 1/2) * 2`.
//! A bare number is in the tape's own unit. A number that came out of `*` with another bare
//! number is a count, not a length, and is not added to a length.

use super::{FOOT, INCH, Unit};

/// The most characters in an entry, and how deep parentheses may nest.
pub const MAX_CHARS: usize = 200;
const MAX_DEPTH: usize = 40;
/// The largest result, mm (10 km): beyond it an entry is a slip.
pub const MAX_MM: f64 = 1.0e7;

/// Why an entry cannot be read, and at which character (from 0).
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
#[error("{message} (at character {})", at + 1)]
pub struct TapeError {
    /// Character position from 0.
    pub at: usize,
    /// What is wrong, in plain words.
    pub message: String,
}

/// Reads `entry`; a bare number is in `unit`. The result is in millimetres.
///
/// # Errors
/// An empty entry, a character or order that makes no sense, length times length, a count added
/// to a length, division by zero, and results beyond 10 km. The error names the character.
pub fn parse(entry: &str, unit: Unit) -> Result<f64, TapeError> {
    let chars: Vec<char> = entry.chars().map(plain).collect();
    if chars.len() > MAX_CHARS {
        return err(MAX_CHARS, "this is too long to be a reading");
    }
    let mut parser = Parser {
        chars,
        at: 0,
        unit,
        depth: 0,
    };
    parser.skip();
    if parser.peek().is_none() {
        return err(parser.at, "nothing was entered");
    }
    let value = parser.sum()?;
    parser.skip();
    if let Some(c) = parser.peek() {
        return err(parser.at, format!("\"{c}\" does not belong here"));
    }
    let mm = match value {
        Value::Length(mm) => mm,
        Value::Bare(n) | Value::Count(n) => n * unit.mm(),
        Value::Ratio(_) => {
            return err(0, "a length divided by a length is a number, not a length");
        }
    };
    if !mm.is_finite() || mm.abs() > MAX_MM {
        return err(0, "this is too large to be a length");
    }
    Ok(mm)
}

#[derive(Debug, Clone, Copy)]
enum Value {
    /// A number without a unit, which may still be a length in the tape's unit.
    Bare(f64),
    /// A product of bare numbers.
    Count(f64),
    /// A length divided by a length.
    Ratio(f64),
    /// Millimetres.
    Length(f64),
}

impl Value {
    fn number(self) -> f64 {
        match self {
            Value::Bare(n) | Value::Count(n) | Value::Ratio(n) | Value::Length(n) => n,
        }
    }
    fn map(self, f: impl Fn(f64) -> f64) -> Value {
        match self {
            Value::Bare(n) => Value::Bare(f(n)),
            Value::Count(n) => Value::Count(f(n)),
            Value::Ratio(n) => Value::Ratio(f(n)),
            Value::Length(n) => Value::Length(f(n)),
        }
    }
}

fn err<T>(at: usize, message: impl Into<String>) -> Result<T, TapeError> {
    Err(TapeError {
        at,
        message: message.into(),
    })
}

/// Typographic marks to the plain ones, one character for one, so that positions stay true.
fn plain(c: char) -> char {
    match c {
        '\u{2032}' | '\u{2019}' | '\u{2018}' | '\u{00b4}' => '\'',
        '\u{2033}' | '\u{201d}' | '\u{201c}' => '"',
        '\u{2044}' | '\u{2215}' | '\u{00f7}' => '/',
        '\u{2212}' | '\u{2013}' => '-',
        '\u{00d7}' | '\u{00b7}' => '*',
        c if c.is_whitespace() => ' ',
        c => c,
    }
}

/// Unicode vulgar fractions.
fn vulgar(c: char) -> Option<f64> {
    Some(match c {
        '¼' => 1.0 / 4.0,
        '½' => 1.0 / 2.0,
        '¾' => 3.0 / 4.0,
        '⅐' => 1.0 / 7.0,
        '⅑' => 1.0 / 9.0,
        '⅒' => 1.0 / 10.0,
        '⅓' => 1.0 / 3.0,
        '⅔' => 2.0 / 3.0,
        '⅕' => 1.0 / 5.0,
        '⅖' => 2.0 / 5.0,
        '⅗' => 3.0 / 5.0,
        '⅘' => 4.0 / 5.0,
        '⅙' => 1.0 / 6.0,
        '⅚' => 5.0 / 6.0,
        '⅛' => 1.0 / 8.0,
        '⅜' => 3.0 / 8.0,
        '⅝' => 5.0 / 8.0,
        '⅞' => 7.0 / 8.0,
        _ => return None,
    })
}

struct Parser {
    chars: Vec<char>,
    at: usize,
    unit: Unit,
    depth: usize,
}

impl Parser {
    fn peek(&self) -> Option<char> {
        self.chars.get(self.at).copied()
    }

    fn look(&self, ahead: usize) -> Option<char> {
        self.chars.get(self.at + ahead).copied()
    }

    fn skip(&mut self) {
        while self.peek() == Some(' ') {
            self.at += 1;
        }
    }

    fn sum(&mut self) -> Result<Value, TapeError> {
        let mut left = self.product()?;
        loop {
            self.skip();
            let at = self.at;
            let sign = match self.peek() {
                Some('+') => 1.0,
                Some('-') => -1.0,
                _ => return Ok(left),
            };
            self.at += 1;
            let right = self.product()?;
            left = self.add(left, right, sign, at)?;
        }
    }

    fn add(&self, a: Value, b: Value, sign: f64, at: usize) -> Result<Value, TapeError> {
        use Value::{Bare, Count, Length, Ratio};
        let unit = self.unit.mm();
        match (a, b) {
            (Length(x), Length(y)) => Ok(Length(x + sign * y)),
            (Length(x), Bare(y)) => Ok(Length(x + sign * y * unit)),
            (Bare(x), Length(y)) => Ok(Length(x * unit + sign * y)),
            (Length(_), Count(_) | Ratio(_)) | (Count(_) | Ratio(_), Length(_)) => err(
                at,
                "a length and a plain number cannot be added: give the number a unit",
            ),
            (Ratio(x), y) | (y, Ratio(x)) => {
                let (x, y) = if matches!(a, Ratio(_)) {
                    (x, y.number())
                } else {
                    (y.number(), x)
                };
                Ok(Ratio(x + sign * y))
            }
            (Bare(x), Bare(y)) => Ok(Bare(x + sign * y)),
            (x, y) => Ok(Count(x.number() + sign * y.number())),
        }
    }

    fn product(&mut self) -> Result<Value, TapeError> {
        use Value::{Bare, Count, Length, Ratio};
        let mut left = self.signed()?;
        loop {
            self.skip();
            let at = self.at;
            match self.peek() {
                Some('*') => {
                    self.at += 1;
                    let right = self.signed()?;
                    left = match (left, right) {
                        (Length(_), Length(_)) => {
                            return err(at, "a length times a length is an area, not a length");
                        }
                        (Length(x), y) | (y, Length(x)) => Length(x * y.number()),
                        (Ratio(x), y) | (y, Ratio(x)) => Ratio(x * y.number()),
                        (x, y) => Count(x.number() * y.number()),
                    };
                }
                Some('/') => {
                    self.at += 1;
                    let right = self.signed()?;
                    if right.number() == 0.0 {
                        return err(at, "division by zero");
                    }
                    left = match (left, right) {
                        (Length(x), Length(y)) => Ratio(x / y),
                        (_, Length(_)) => {
                            return err(at, "a plain number cannot be divided by a length");
                        }
                        (Count(x), y) => Count(x / y.number()),
                        (Bare(x), Count(y)) => Count(x / y),
                        (x, y) => x.map(|n| n / y.number()),
                    };
                }
                _ => return Ok(left),
            }
        }
    }

    fn signed(&mut self) -> Result<Value, TapeError> {
        self.skip();
        match self.peek() {
            Some(sign @ ('-' | '+')) => {
                self.at += 1;
                self.enter()?;
                let value = self.signed()?;
                self.depth -= 1;
                Ok(if sign == '-' {
                    value.map(|n| -n)
                } else {
                    value
                })
            }
            _ => self.primary(),
        }
    }

    fn enter(&mut self) -> Result<(), TapeError> {
        self.depth += 1;
        if self.depth > MAX_DEPTH {
            return err(self.at, "this is nested too deeply");
        }
        Ok(())
    }

    fn primary(&mut self) -> Result<Value, TapeError> {
        self.skip();
        let start = self.at;
        match self.peek() {
            Some('(') => {
                self.at += 1;
                self.enter()?;
                let value = self.sum()?;
                self.depth -= 1;
                self.skip();
                if self.peek() != Some(')') {
                    return err(self.at, "a closing parenthesis is missing");
                }
                self.at += 1;
                match (value, self.unit_mark()?) {
                    (Value::Bare(n) | Value::Count(n), Some(unit)) => {
                        Ok(Value::Length(n * unit.mm()))
                    }
                    (_, Some(_)) => err(start, "this has a unit already"),
                    (value, None) => Ok(value),
                }
            }
            Some(c) if c.is_ascii_digit() || c == '.' || c == ',' || vulgar(c).is_some() => {
                let number = self.number()?;
                match self.unit_mark()? {
                    Some(Unit::Ft) => Ok(Value::Length(number * FOOT + self.inches_after_feet()?)),
                    Some(unit) => Ok(Value::Length(number * unit.mm())),
                    None => Ok(Value::Bare(number)),
                }
            }
            Some(c) => err(start, format!("a number is expected here, not \"{c}\"")),
            None => err(start, "a number is missing at the end"),
        }
    }

    /// After feet, a number without a unit or with an inch mark is inches: `7' 2 1/2"`, `7'-2"`.
    fn inches_after_feet(&mut self) -> Result<f64, TapeError> {
        let before = self.at;
        let hyphen = self.peek() == Some('-') && self.look(1).is_some_and(|c| c.is_ascii_digit());
        if hyphen {
            self.at += 1;
        }
        self.skip();
        let starts = self
            .peek()
            .is_some_and(|c| c.is_ascii_digit() || vulgar(c).is_some() || c == '.');
        if !starts {
            self.at = before;
            return Ok(0.0);
        }
        let at = self.at;
        let inches = self.number()?;
        match self.unit_mark()? {
            Some(Unit::In) => Ok(inches * INCH),
            // `7'-2` could be a subtraction: only an inch mark makes the hyphen a joint.
            None if hyphen => {
                self.at = before;
                Ok(0.0)
            }
            None => Ok(inches * INCH),
            Some(_) => err(at, "inches are expected after feet"),
        }
    }

    /// A number: decimal, fraction, mixed fraction, with vulgar fractions.
    fn number(&mut self) -> Result<f64, TapeError> {
        if let Some(v) = self.peek().and_then(vulgar) {
            self.at += 1;
            return Ok(v);
        }
        let (whole, integer) = self.decimal()?;
        if !integer {
            return Ok(whole);
        }
        let before = self.at;
        // `23½`, `23 ½`
        self.skip();
        if let Some(v) = self.peek().and_then(vulgar) {
            self.at += 1;
            return Ok(whole + v);
        }
        // `3/16` alone
        if self.peek() == Some('/')
            && let Some(fraction) = self.over(whole)?
        {
            return Ok(fraction);
        }
        self.at = before;
        // `23 3/16`, `23-3/16`
        let spaced = self.peek() == Some(' ');
        let hyphen = self.peek() == Some('-') && self.look(1).is_some_and(|c| c.is_ascii_digit());
        if spaced || hyphen {
            self.at += 1;
            self.skip();
            let at = self.at;
            if self.peek().is_some_and(|c| c.is_ascii_digit()) {
                let (top, integer) = self.decimal()?;
                self.skip();
                if integer
                    && self.peek() == Some('/')
                    && let Some(fraction) = self.over(top)?
                {
                    if fraction < 1.0 {
                        return Ok(whole + fraction);
                    }
                    if spaced {
                        return err(at, "the fraction of a mixed number must be less than one");
                    }
                }
            }
            self.at = before;
        }
        Ok(whole)
    }

    /// With the parser on `/`: the fraction `top/n`, or nothing when what follows is no integer.
    fn over(&mut self, top: f64) -> Result<Option<f64>, TapeError> {
        let slash = self.at;
        self.at += 1;
        self.skip();
        if !self.peek().is_some_and(|c| c.is_ascii_digit()) {
            self.at = slash;
            return Ok(None);
        }
        let (bottom, integer) = self.decimal()?;
        if !integer {
            self.at = slash;
            return Ok(None);
        }
        if bottom == 0.0 {
            return err(slash, "division by zero");
        }
        Ok(Some(top / bottom))
    }

    fn decimal(&mut self) -> Result<(f64, bool), TapeError> {
        let start = self.at;
        let mut text = String::new();
        let mut integer = true;
        while let Some(c) = self.peek() {
            if c.is_ascii_digit() {
                text.push(c);
            } else if (c == '.' || c == ',') && integer {
                integer = false;
                text.push('.');
            } else {
                break;
            }
            self.at += 1;
        }
        match text.parse::<f64>() {
            Ok(v) if v.is_finite() => Ok((v, integer)),
            _ => err(start, "this is not a number"),
        }
    }

    /// A unit right after a number, if there is one.
    fn unit_mark(&mut self) -> Result<Option<Unit>, TapeError> {
        let before = self.at;
        self.skip();
        let start = self.at;
        match self.peek() {
            Some('\'') if self.look(1) == Some('\'') => {
                self.at += 2;
                return Ok(Some(Unit::In));
            }
            Some('\'') => {
                self.at += 1;
                return Ok(Some(Unit::Ft));
            }
            Some('"') => {
                self.at += 1;
                return Ok(Some(Unit::In));
            }
            _ => {}
        }
        let word: String = self.chars[start..]
            .iter()
            .take_while(|c| c.is_alphabetic())
            .collect();
        if word.is_empty() {
            self.at = before;
            return Ok(None);
        }
        let unit = match word.to_lowercase().as_str() {
            "in" | "inch" | "inches" => Unit::In,
            "ft" | "foot" | "feet" => Unit::Ft,
            "mm" => Unit::Mm,
            "cm" => Unit::Cm,
            "m" => Unit::M,
            _ => {
                return err(
                    start,
                    format!("\"{word}\" is no unit: use ', \", in, ft, mm, cm or m"),
                );
            }
        };
        self.at = start + word.chars().count();
        Ok(Some(unit))
    }
}
