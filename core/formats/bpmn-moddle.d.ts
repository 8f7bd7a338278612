/** The part of bpmn-moddle that is used here; it ships no types of its own for this. */
declare module 'bpmn-moddle' {
  export type ModdleElement = {
    $type: string;
    $attrs: Record<string, string>;
    $body?: string;
    $descriptor?: { ns?: { uri?: string } };
    [key: string]: unknown;
  };
  export class BpmnModdle {
    create(type: string, properties?: Record<string, unknown>): ModdleElement;
    createAny(type: string, namespace: string, properties?: Record<string, unknown>): ModdleElement;
    toXML(element: ModdleElement, options?: { format?: boolean }): Promise<{ xml: string }>;
    fromXML(xml: string): Promise<{ rootElement: ModdleElement; warnings: { message: string }[] }>;
  }
}
