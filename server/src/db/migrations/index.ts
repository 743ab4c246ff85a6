import { causes } from './004-causes.ts';
import { grounds } from './005-grounds.ts';
import { problems } from './007-problems.ts';
import { renewal } from './006-renewal.ts';
import { storage } from './003-storage.ts';
import { first } from './001-first.ts';
import { reading } from './002-reading.ts';
import { rows } from './008-rows.ts';
import { made } from './009-made.ts';
import { trimmed } from './010-trimmed.ts';
import { notes } from './011-notes.ts';
import { putBack } from './012-put-back.ts';
import { sets } from './013-sets.ts';
import { scope } from './014-scope.ts';
import { coded } from './015-coded.ts';
import { targets } from './016-targets.ts';
import { details } from './017-details.ts';
import { bins } from './018-bins.ts';
import { takenOut } from './019-taken-out.ts';
import { health } from './020-health.ts';
import { pulls } from './021-pulls.ts';
import { watched } from './022-watched.ts';
import { beforeActs } from './023-beforeActs.ts';
import { along } from './024-along.ts';
import { renames } from './025-renames.ts';
import { folders } from './026-folders.ts';
import { preferences } from './027-preferences.ts';
import { archive } from './028-archive.ts';
import { pictures } from './029-pictures.ts';
import { receiver } from './030-receiver.ts';
import { counted } from './031-counted.ts';
import { likeliest } from './032-likeliest.ts';
import { meant } from './033-meant.ts';
import { rowsOnce } from './034-rows-once.ts';
import { turnsInOrder } from './035-turns.ts';
import { shownFrames } from './036-shown.ts';
import { actsTold } from './037-acts.ts';
import { decidedAnew } from './038-decided-anew.ts';
import { readQuickly } from './039-read-quickly.ts';
import { decidedBeside } from './040-beside.ts';
import { heldAtOnce } from './041-held-at-once.ts';
import { listCounted } from './042-list-counted.ts';

/** Numbered, forward only, in order. */
export const migrations = [
  first,
  reading,
  storage,
  causes,
  grounds,
  renewal,
  problems,
  rows,
  made,
  trimmed,
  notes,
  putBack,
  sets,
  scope,
  coded,
  targets,
  details,
  bins,
  takenOut,
  health,
  pulls,
  watched,
  beforeActs,
  along,
  renames,
  folders,
  preferences,
  archive,
  pictures,
  receiver,
  counted,
  likeliest,
  meant,
  rowsOnce,
  turnsInOrder,
  shownFrames,
  actsTold,
  decidedAnew,
  readQuickly,
  decidedBeside,
  heldAtOnce,
  listCounted,
] as const;
