/** Open formats: BPMN 2.0 and JSON Schema. */
export { writeBpmn } from './bpmnExport.ts';
export { type BpmnReading, readBpmn, type Unread } from './bpmnImport.ts';
export { workflowJsonSchema } from './jsonSchema.ts';
