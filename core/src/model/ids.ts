/** Ids are strings that cannot stand in for one another. Stores make them; core only carries them. */
export type ProjectId = string & { readonly idOf: 'project' };
export type DocumentId = string & { readonly idOf: 'document' };
export type ClipId = string & { readonly idOf: 'clip' };
export type PlaceId = string & { readonly idOf: 'place' };
export type MediaFileId = string & { readonly idOf: 'mediaFile' };
export type HandoffId = string & { readonly idOf: 'handoff' };
export type JobId = string & { readonly idOf: 'job' };
