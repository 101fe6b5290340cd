//! Pages and API. They parse, ask the core, and show: no rule and no arithmetic of bread stands here.

pub mod api;
mod desk;
mod draw;
pub mod edge;
mod screens;

use std::{io, net::TcpListener, sync::Arc, time::Duration};

use actix_web::{
    App, Error, HttpServer,
    body::MessageBody,
    dev::{Server, ServiceFactory, ServiceRequest, ServiceResponse},
    middleware::{Compress, from_fn},
    web,
};
use cerealis_core::Tables;
use cerealis_store::Database;

use desk::visits::Visits;
use edge::{Clock, Guard, Household};

/// Everything a handler may need. Cheap to clone.
#[derive(Debug, Clone)]
pub struct State {
    /// The core's tables with the household's own things in them.
    pub household: Household,
    /// The household's book.
    pub db: Database,
    /// The clock.
    pub clock: Clock,
    /// Names under which the program may be called.
    pub guard: Guard,
    /// What formulas were on their sheets.
    visits: Visits,
}

impl State {
    /// Of a household, its book and a clock; called by no other name than this machine's.
    #[must_use]
    pub fn new(household: Household, db: Database, clock: Clock) -> Self {
        Self { household, db, clock, guard: Guard::default(), visits: Visits::default() }
    }

    /// The same under further host names.
    #[must_use]
    pub fn also_called(self, hosts: Vec<String>) -> Self {
        Self { guard: Guard { hosts }, ..self }
    }

    /// The core's tables as they are now.
    #[must_use]
    pub fn tables(&self) -> Arc<Tables> {
        self.household.tables()
    }
}

/// What a program serves.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Serves {
    /// A household: its pages and every call.
    Household,
    /// The calls that need none.
    Calls,
}

/// The whole application of a household.
pub fn app(
    state: State,
) -> App<impl ServiceFactory<ServiceRequest, Config = (), Response = ServiceResponse<impl MessageBody>, Error = Error, InitError = ()>> {
    serving(state, Serves::Household)
}

/// An application: routes, limits, headers, logs.
pub fn serving(
    state: State,
    serves: Serves,
) -> App<impl ServiceFactory<ServiceRequest, Config = (), Response = ServiceResponse<impl MessageBody>, Error = Error, InitError = ()>> {
    let guard = web::Data::new(state.guard.clone());
    App::new()
        .app_data(web::Data::new(state))
        .app_data(guard)
        .app_data(web::PayloadConfig::new(edge::BODY_LIMIT))
        .app_data(edge::query_config())
        .configure(|routes| match serves {
            Serves::Calls => api::stateless(routes),
            Serves::Household => {
                api::routes(routes);
                screens::routes(routes);
                edge::assets::routes(routes);
            }
        })
        .default_service(web::to(edge::nothing_here))
        .wrap(from_fn(edge::in_units))
        .wrap(from_fn(edge::methods))
        .wrap(from_fn(edge::in_time))
        .wrap(Compress::default())
        .wrap(from_fn(edge::in_one_piece))
        .wrap(from_fn(edge::guard))
        .wrap(edge::headers())
        .wrap(tracing_actix_web::TracingLogger::default())
}

/// The server of an application on the ports that are listened on. Answers go out at once: held back for more they would wait
/// for a browser that acknowledges late.
///
/// # Errors
/// If a port cannot be served.
pub fn server(listeners: Vec<TcpListener>, state: State, serves: Serves) -> io::Result<Server> {
    let mut server = HttpServer::new(move || serving(state.clone(), serves))
        .workers(2)
        .client_request_timeout(Duration::from_secs(10))
        .shutdown_timeout(5)
        .tcp_nodelay(true);
    for listener in listeners {
        server = server.listen(listener)?;
    }
    Ok(server.run())
}
