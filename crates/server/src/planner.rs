//! Plans, worked out off the async threads and outside any lock; the newest are kept, by content.

use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, Mutex};

use jigfit_core::curves::view::{TemplateView, templates};
use jigfit_core::plan::{Plan, solve_while};
use jigfit_core::project::Project;
use jigfit_core::survey::model::Model;
use sha2::{Digest, Sha256};

use crate::problem::ApiError;

/// Plans and vehicle models kept.
const KEPT: usize = 12;

type Key = [u8; 32];
type Kept<T> = Arc<Mutex<Vec<(Key, Arc<T>)>>>;

/// Works plans out.
#[derive(Clone, Default)]
pub struct Planner {
    plans: Kept<Plan>,
    models: Kept<Model>,
    curves: Kept<Vec<TemplateView>>,
}

/// Says that nobody waits any more, when it is dropped.
struct Asker(Arc<AtomicBool>);

impl Drop for Asker {
    fn drop(&mut self) {
        self.0.store(true, Ordering::Relaxed);
    }
}

impl Planner {
    /// The plan of a project. Whoever stops waiting stops the work. A plan that breaks is answered by
    /// one that says so: the document stays open.
    ///
    /// # Errors
    /// Nobody waits any more.
    pub async fn plan(&self, project: &Project) -> Result<Arc<Plan>, ApiError> {
        let key = key(project);
        if let Some(plan) = get(&self.plans, &key) {
            return Ok(plan);
        }
        let (own, mine) = (self.clone(), project.clone());
        let plan = match blocking(move |go_on| own.solve(&mine, go_on)).await {
            Ok(Some(plan)) => Arc::new(plan),
            Ok(None) => return Err(ApiError::internal("Nobody waited for this plan.")),
            Err(e) => {
                tracing::error!(error = %e, "the plan broke");
                return Ok(Arc::new(Plan::broken(project)));
            }
        };
        // A plan that goes takes its time too: nobody waits for that.
        let gone = put(&self.plans, key, plan.clone());
        drop(tokio::task::spawn_blocking(move || drop(gone)));
        Ok(plan)
    }

    /// The same where the caller may block.
    pub fn plan_now(&self, project: &Project) -> Arc<Plan> {
        let key = key(project);
        if let Some(plan) = get(&self.plans, &key) {
            return plan;
        }
        let plan = self.solve(project, &|| true);
        let plan = Arc::new(plan.unwrap_or_else(|| Plan::broken(project)));
        drop(put(&self.plans, key, plan.clone()));
        plan
    }

    fn solve(&self, project: &Project, go_on: &(dyn Fn() -> bool + Sync)) -> Option<Plan> {
        let (model, curves) = self.known(project, go_on)?;
        solve_while(project, (&model, &curves), go_on)
    }

    /// The vehicle and the captured curves of a project, where the caller may block.
    pub fn known(
        &self,
        project: &Project,
        go_on: &(dyn Fn() -> bool + Sync),
    ) -> Option<(Arc<Model>, Arc<Vec<TemplateView>>)> {
        // Most edits leave the captured curves alone; their figures hang on the units, their place on the tape's noise.
        let own = key(&(&project.templates, &project.units, project.survey.sd));
        let curves = match get(&self.curves, &own) {
            Some(curves) => curves,
            None => {
                let curves = Arc::new(templates(project));
                drop(put(&self.curves, own, curves.clone()));
                curves
            }
        };
        // Nor do they change what was measured of the vehicle.
        let survey = key(&(
            &project.vehicle.kind,
            &project.survey,
            &project.templates,
            &project.fits,
        ));
        let model = match get(&self.models, &survey) {
            Some(model) => model,
            None => {
                let model = Arc::new(Model::new_while(project, &curves, go_on)?);
                drop(put(&self.models, survey, model.clone()));
                model
            }
        };
        Some((model, curves))
    }
}

/// Work off the async threads, as long as somebody waits for it.
async fn blocking<T: Send + 'static>(
    work: impl FnOnce(&(dyn Fn() -> bool + Sync)) -> T + Send + 'static,
) -> Result<T, tokio::task::JoinError> {
    let gone = Arc::new(AtomicBool::new(false));
    let _asker = Asker(gone.clone());
    tokio::task::spawn_blocking(move || work(&|| !gone.load(Ordering::Relaxed))).await
}

/// Work that is given up when nobody waits any more.
///
/// # Errors
/// It broke, or nobody waits.
pub async fn while_asked<T: Send + 'static>(
    work: impl FnOnce(&(dyn Fn() -> bool + Sync)) -> Option<T> + Send + 'static,
) -> Result<T, ApiError> {
    let done = blocking(work).await;
    let done = done.map_err(|e| ApiError::internal(e.to_string()))?;
    done.ok_or_else(|| ApiError::internal("Nobody waited for this."))
}

/// A fingerprint of a document or a part of it.
fn key<T: serde::Serialize>(of: &T) -> Key {
    let text = serde_json::to_vec(of).unwrap_or_default();
    Sha256::digest(text).into()
}

fn get<T>(kept: &Kept<T>, key: &Key) -> Option<Arc<T>> {
    let mut all = kept.lock().unwrap_or_else(|p| p.into_inner());
    let at = all.iter().position(|(k, _)| k == key)?;
    let found = all.remove(at);
    let value = found.1.clone();
    all.push(found);
    Some(value)
}

/// Keeps a value. What has to go for it is the caller's to drop, outside the lock.
fn put<T>(kept: &Kept<T>, key: Key, value: Arc<T>) -> Option<Arc<T>> {
    let mut all = kept.lock().unwrap_or_else(|p| p.into_inner());
    let same = all.iter().position(|(k, _)| *k == key);
    let goes = same.or_else(|| (all.len() >= KEPT).then_some(0));
    let gone = goes.map(|at| all.remove(at).1);
    all.push((key, value));
    gone
}
