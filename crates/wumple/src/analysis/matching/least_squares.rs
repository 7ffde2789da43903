//! Least squares, and how far what they find may be off.

use levenberg_marquardt::{LeastSquaresProblem, LevenbergMarquardt};
use nalgebra::{DMatrix, DVector, Dyn, Owned};

/// So many standard errors from what is found lies the truth in 95 of 100 recordings: measured, over random tunings told in whole pixels; that
/// errors of the normal distribution would need 2 is not to be relied on where places are rounded.
pub(super) const CERTAIN: f64 = 2.3;

/// What else fits about as well as the best: of which no more squares are left than so many of one sample. Measured, as [`CERTAIN`] is: one tick
/// earlier and a slower change look much alike in whole pixels.
pub(super) const ALIKE: f64 = 36.0;

/// What fits best.
#[derive(Clone, Debug)]
pub(super) struct Solution {
    pub(super) parameters: Vec<f64>,
    pub(super) residuals: Vec<f64>,
    /// The inverse of the normal matrix; none if what was asked does not decide all the parameters.
    covariance: Option<DMatrix<f64>>,
}

impl Solution {
    /// The sum of the squared residuals.
    pub(super) fn squares(&self) -> f64 {
        self.residuals.iter().map(|residual| residual * residual).sum()
    }

    /// The root of their mean.
    pub(super) fn spread(&self) -> f64 {
        let free = (self.residuals.len() as f64 - self.parameters.len() as f64).max(1.0);
        (self.squares() / free).sqrt()
    }

    /// The standard error of a combination of the parameters, if each residual has this one.
    pub(super) fn error(&self, weights: &[f64], of_each: f64) -> f64 {
        let Some(covariance) = &self.covariance else { return f64::INFINITY };
        let weights = DVector::from_column_slice(weights);
        (weights.dot(&(covariance * &weights))).max(0.0).sqrt() * of_each
    }

    /// The standard error of one parameter.
    pub(super) fn error_of(&self, parameter: usize, of_each: f64) -> f64 {
        let weights: Vec<f64> = (0..self.parameters.len()).map(|at| f64::from(u8::from(at == parameter))).collect();
        self.error(&weights, of_each)
    }
}

struct Problem<'a, F> {
    parameters: DVector<f64>,
    residuals: &'a F,
}

/// A step of a parameter to see how the residuals change.
const STEP: f64 = 1e-5;

impl<F: Fn(&[f64]) -> Option<Vec<f64>>> Problem<'_, F> {
    fn at(&self, parameters: &[f64]) -> Option<DVector<f64>> {
        (self.residuals)(parameters).map(DVector::from_vec)
    }
}

impl<F: Fn(&[f64]) -> Option<Vec<f64>>> LeastSquaresProblem<f64, Dyn, Dyn> for Problem<'_, F> {
    type ResidualStorage = Owned<f64, Dyn>;
    type JacobianStorage = Owned<f64, Dyn, Dyn>;
    type ParameterStorage = Owned<f64, Dyn>;

    fn set_params(&mut self, parameters: &DVector<f64>) {
        self.parameters.copy_from(parameters);
    }

    fn params(&self) -> DVector<f64> {
        self.parameters.clone()
    }

    fn residuals(&self) -> Option<DVector<f64>> {
        self.at(self.parameters.as_slice())
    }

    fn jacobian(&self) -> Option<DMatrix<f64>> {
        let mut at = self.parameters.as_slice().to_vec();
        let columns: Option<Vec<DVector<f64>>> = (0..at.len())
            .map(|index| {
                let here = at[index];
                at[index] = here + STEP;
                let after = self.at(&at)?;
                at[index] = here - STEP;
                let before = self.at(&at)?;
                at[index] = here;
                Some((after - before) / (2.0 * STEP))
            })
            .collect();
        Some(DMatrix::from_columns(&columns?))
    }
}

/// The parameters that make these residuals least, from a first guess. They should all be of the order of one: the logarithm of what
/// is above zero.
pub(super) fn least_squares(first: &[f64], residuals: impl Fn(&[f64]) -> Option<Vec<f64>>) -> Option<Solution> {
    let problem = Problem { parameters: DVector::from_column_slice(first), residuals: &residuals };
    let count = problem.residuals()?.len();
    if count < first.len() {
        return None;
    }
    let (problem, _) = LevenbergMarquardt::new().with_patience(15).minimize(problem);
    let residuals = problem.residuals()?.as_slice().to_vec();
    let jacobian = problem.jacobian()?;
    let covariance = (jacobian.transpose() * &jacobian).try_inverse();
    let covariance = covariance.filter(|found| found.iter().all(|entry| entry.is_finite()));
    Some(Solution { parameters: problem.parameters.as_slice().to_vec(), residuals, covariance })
}

/// By how much errors that go together in rows beside each other make an error larger: places rounded to whole pixels are off by
/// the same for several frames of a slow motion. From the correlation of each residual with the next, `(1 + r) / (1 - r)`.
pub(super) fn inflation<'a>(series: impl Iterator<Item = &'a [f64]>) -> f64 {
    let (mut products, mut squares) = (0.0, 0.0);
    for residuals in series.filter(|residuals| residuals.len() > 2) {
        products += residuals.windows(2).map(|pair| pair[0] * pair[1]).sum::<f64>();
        squares += residuals.iter().map(|residual| residual * residual).sum::<f64>();
    }
    let alike = if squares > 0.0 { (products / squares).clamp(0.0, 0.9) } else { 0.0 };
    ((1.0 + alike) / (1.0 - alike)).sqrt()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_line_and_its_errors_are_those_of_the_closed_form() {
        let places: Vec<f64> = (0..10).map(f64::from).collect();
        let found =
            least_squares(&[0.0, 0.0], |at| Some(places.iter().map(|x| at[0] + at[1] * x - (3.0 - 0.5 * x)).collect()))
                .unwrap();
        assert!((found.parameters[0] - 3.0).abs() < 1e-6 && (found.parameters[1] + 0.5).abs() < 1e-6, "{found:?}");
        // The error of a slope is one over the root of the sum of the squared distances from the middle.
        let squares: f64 = places.iter().map(|x| (x - 4.5) * (x - 4.5)).sum();
        assert!((found.error_of(1, 1.0) - squares.sqrt().recip()).abs() < 1e-6);
        assert!(found.error_of(1, 2.0) > 1.9 * found.error_of(1, 1.0));
    }

    #[test]
    fn what_decides_nothing_has_no_error_that_is_a_number() {
        let found = least_squares(&[1.0, 1.0], |at| Some(vec![at[0] - 1.0, at[0] - 1.2, at[0] - 0.8])).unwrap();
        assert_eq!(found.error_of(1, 1.0), f64::INFINITY);
    }

    #[test]
    fn errors_that_go_together_count_for_more() {
        let together = [0.4, 0.3, 0.2, 0.1, -0.1, -0.2, -0.3, -0.4];
        let apart = [0.3, -0.2, 0.1, -0.4, 0.3, -0.1];
        assert!(inflation([&together[..]].into_iter()) > 1.5);
        assert_eq!(inflation([&apart[..]].into_iter()), 1.0);
    }
}
