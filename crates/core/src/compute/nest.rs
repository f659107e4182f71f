//! `nest`: parts on sheets.

use serde_json::Value;

use super::answer;
use crate::cutting::nest::NestIn;
use crate::input::from_value;
use crate::problem::Problem;

pub fn run(input: Value) -> Result<Value, Problem> {
    let input: NestIn = from_value(input)?;
    answer(&input.solve()?)
}
