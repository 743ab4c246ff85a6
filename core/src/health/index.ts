/** What may go wrong with a project's media later, and where they should lie. */
export {
  checkHealth,
  nameFaultOf,
  notAsked,
  type ClipToCheck,
  type FileBeside,
  type FileToCheck,
  type HealthInput,
  type PlaceToCheck,
} from './checks.ts';
export {
  healthChecks,
  nameFaults,
  type HealthCheck,
  type HealthFinding,
  type HealthSubject,
  type NameFault,
} from './findings.ts';
export { waysHome, type ToBringHome, type WayHome } from './bringHome.ts';
export { isAtHome, proposeHome, type Home } from './home.ts';
