export * from './estate/words.js';
export * from './estate/estate.js';
export * from './estate/organisation.js';
export type { Touches } from './kinds/defineKind.js';
export * from './estate/measurement.js';
export * from './estate/setting.js';
export * from './estate/bringup.js';
export * from './estate/recipe.js';
export * from './estate/peripheral.js';
export * from './estate/wifi.js';
export * from './estate/access.js';
export * from './estate/requirement.js';
export * from './estate/change.js';
export * from './estate/source.js';
export { Key } from './estate/fields.js';
export { Line, Location, Region, Gateway, Pool, Host, Resource, Group, Person, Guest, Graphics } from './estate/objects.js';
export { Endpoint, Screen, Decoder } from './estate/endpoint.js';
export { measurementsFile, readFolder, writeFolder, type FolderContent } from './files/folder.js';
export { standIns, withStandIns } from './estate/standIns.js';
export { referencesOf } from './estate/references.js';
export { completed, faultsOfObject, type ObjectCheck } from './estate/faultsOfObject.js';
export type { FileProblem } from './files/problem.js';
export * from './api/requests.js';
export * from './api/intake.js';
export * from './api/answers.js';
export * from './api/crossingAnswers.js';
export * from './api/bringupAnswers.js';
export * from './api/deskAnswers.js';
export * from './api/firmwareAnswers.js';
export * from './api/imageAnswers.js';
export * from './api/recipeAnswers.js';
export * from './api/settingsAnswers.js';
export * from './api/telephoneAnswers.js';
export * from './api/checkMessages.js';
export { readDocument, writeDocument } from './files/document.js';
export { readYaml, writeYaml } from './files/plainYaml.js';
export { jsonSchemas } from './files/jsonSchema.js';
export { faultOfTexts } from './files/fitText.js';
export { faultsOfError, faultsOfIssues, type Fault } from './files/faults.js';
export { BoundedJson, boundedRecord, faultOfJsonShape } from './bounds.js';
export { writeRows } from './files/table.js';
export { schemaWords, type SchemaWord } from './files/schemaWords.js';
export { CellError } from './files/cellError.js';
export { TableMap, type MappedColumn } from './files/tableMap.js';
export { templatePage, writeTemplate } from './files/template.js';
export { intakeTarget, listedKinds } from './files/intake.js';
export { columnsOf, type Column } from './files/columns.js';
export {
  fieldsOf,
  formOf,
  formSchemaOf,
  keyOfName,
  objectOf,
  partAt,
  withPart,
  type Field,
  type FormRow,
  type FormTexts,
  type FormValue,
} from './files/fields.js';
export * from './api/users.js';
export * from './api/jobs.js';
export * from './api/session.js';
export { EntryLinkForm, MeasurementForm, RecordingForm, SeenForm } from './api/forms.js';
export { Har, parseHar } from './files/har.js';
export * from './api/access.js';
export * from './api/accessAnswers.js';
export * from './api/feeds.js';
export * from './api/enrol.js';
