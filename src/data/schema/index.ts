export * from './account';
export * from './after';
export * from './goods';
export * from './owner';
export * from './checks';
export * from './site';
export * from './till';
