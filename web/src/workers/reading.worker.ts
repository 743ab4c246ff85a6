import { expose } from 'comlink';
import { DocumentReader } from './documentReader.ts';

expose(new DocumentReader());
