import { givenFile } from './fenced.ts';

/** Containers and stills that a media file may be. Playlists are absent on purpose: they make a decoder open other files. */
const acceptedFormats = [
  'mov,mp4,m4a,3gp,3g2,mj2',
  'mxf',
  'matroska,webm',
  'avi',
  'mpegts',
  'mpeg',
  'mpegvideo',
  'h264',
  'hevc',
  'dv',
  'gxf',
  'wav',
  'w64',
  'aiff',
  'flac',
  'mp3',
  'ogg',
  'caf',
  'aac',
  'image2',
  'png_pipe',
  'jpeg_pipe',
  'tiff_pipe',
  'dpx_pipe',
  'exr_pipe',
  'bmp_pipe',
  'webp_pipe',
  'j2k_pipe',
  'psd_pipe',
  'pam_pipe',
].join(',');

/** Arguments that keep a decoder to the one file it is given. */
export const decoderFence = [
  '-protocol_whitelist',
  'file',
  '-format_whitelist',
  acceptedFormats,
  '-max_pixels',
  '134217728',
  '-max_alloc',
  '1000000000',
];

/** How a decoder calls the file that it was given opened. */
export const theFile = `file:${givenFile()}`;

/** Decoders know what they are given by its content; one kind of still has nothing in it that tells. */
export const howToRead = (path: string): string[] =>
  /\.tga$/i.test(path) ? ['-f', 'image2', '-pattern_type', 'none', '-c:v', 'targa'] : [];
