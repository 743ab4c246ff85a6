export * from './model.ts';
export * from './requests.ts';
export * from './answers.ts';
export * from './acts.ts';
export * from './storage.ts';
