export interface Size { width: number; height: number }
export interface Label { text: string; size: Size; barcode?: string }
export interface PrintOptions { stock?: string; copies?: number; darkness?: number }
export interface Printer { name: string; state: "ready" | "busy" | "off" }
export interface Job { copies: number; priority?: number }
export function render(template: string, fields: Map<string, string>): Label;
export function print(printer: Printer, label: Label, job?: Job): Promise<number>;
export function configure(options: PrintOptions): void;
export function printers(): Promise<Printer[]>;
