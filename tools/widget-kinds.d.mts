export function widgetKinds(): Promise<Record<string, string>>;
