import { z } from 'zod';
import { contents, faultOf, mostFolders, type FolderTemplate } from '../folders/index.ts';
import { namePatternSchema } from './naming.ts';
import { folderOfPlaceSchema, list, of } from './basics.ts';

export const folderTemplateSchema = of<FolderTemplate>()(
  z
    .array(z.object({ path: z.string().min(1).max(2000), takes: z.array(z.enum(contents)).readonly() }))
    .max(mostFolders)
    .readonly()
    .superRefine((template, context) => {
      const fault = faultOf(template);
      if (fault) context.addIssue({ code: 'custom', message: `${fault.path}: ${fault.why}` });
    }),
);

/** The folders of a project; null goes back to those that every project has. */
export const folderTemplateRequestSchema = z.object({ template: folderTemplateSchema.nullable() });
export const foldersSchema = z.object({
  template: folderTemplateSchema,
  /** False: those that every project has that says nothing else. */
  isOwn: z.boolean(),
  /** How its files are named; null until somebody says so. */
  namePattern: namePatternSchema.nullable(),
});
export type Folders = z.infer<typeof foldersSchema>;

export const folderStates = ['there', 'absent', 'file-there'] as const;
/** What lies where the folders of a project would be made. */
export const foldersAtSchema = z.object({
  folders: list(z.object({ path: z.string(), is: z.enum(folderStates) })),
});
export type FolderState = (typeof folderStates)[number];
export type FoldersAt = z.infer<typeof foldersAtSchema>;
/** Where they are to be made. */
export const makeFoldersSchema = folderOfPlaceSchema;
/** How files of a project are named; null: nobody says it any more. */
export const keptPatternSchema = z.object({ pattern: namePatternSchema.nullable() });
