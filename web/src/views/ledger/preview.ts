/** What the panel at the right is for: a clip, or the preview of linking many. */
export type Preview =
  | { readonly kind: 'certain' | 'first-candidates' }
  | { readonly kind: 'acceptance' | 'rules' | 'folder' | 'forms' | 'waive' }
  | null;
