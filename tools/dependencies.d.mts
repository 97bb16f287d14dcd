interface LockFile {
  readonly packages: Readonly<Record<string, object>>;
}
export function nameOf(place: string): string;
export function packagesIn(lock: LockFile): { readonly name: string }[];
export function faultsIn(lock: LockFile): string[];
export function graveIn(answer: unknown): string[] | undefined;
