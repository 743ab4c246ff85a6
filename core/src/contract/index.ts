export * from './model.ts';
export * from './requests.ts';
export * from './answers.ts';
export * from './storage.ts';
