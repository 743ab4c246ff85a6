import { expose } from 'comlink';
import { readDropped } from './droppedMedia.ts';

expose({ readDropped });
