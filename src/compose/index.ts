export { application, createApplication, createPorts, openApplication, type Application } from './application';
export { clientActor, staffActor } from './actors';
export { readEnvironment, type Environment } from './environment';
export { deliverQueued, run } from './run';
export * as useCases from './use-cases';
export { roleMay } from '../usecases/kit';
