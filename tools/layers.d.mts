interface Imported {
  readonly name: string;
  readonly typeOnly: boolean;
}
export function importsOf(text: string, file: string): Imported[];
export function fault(file: string, imported: Imported): string | undefined;
export function checkAll(): { faults: string[]; count: number };
