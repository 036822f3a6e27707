export interface Label { text: string; width: number; height: number; barcode?: string }
export interface PrintOptions { paper?: string; copies?: number; darkness?: number }
export interface Printer { name: string; ready: boolean }
export type LabelError = { code: number; reason: string };
export function renderLabel(fields: Record<string, string>, template: string): Label;
export function print(printer: Printer, label: Label, copies?: number): Promise<number>;
export function configure(options: PrintOptions): void;
export function listPrinters(): Printer[];
