import { playTone } from './draw';
import { tarGz, zip, zipLarge } from './filesByPath';
import {
  brassFittings,
  clearWaters,
  deepHorns,
  docksideTalk,
  eveningHarbour,
  everyIsland,
  gullwick,
  lanternLights,
  northIsles,
  paintedBoats,
  ropeWorks,
  skipperKeys,
  skippersSlang,
  stormPaint,
  warmWords,
  weatheredQuay,
  wildGale,
} from './gullwickPacks';
import { HEDGEROW_SHELF } from './hedgerowShelf';
import type { ShelfItem } from './shelfItem';
import { TINPLATE_SHELF } from './tinplateShelf';

/** What stands on the shelf for Gullwick Ferries. */
export const SHELF: ShelfItem[] = [
  gullwick({
    file: 'weathered-quay-1.2.zip',
    title: 'Weathered Quay 1.2',
    blurb: '214 textures: salt, moss and proper timber for every quay.',
    build: () => zip(weatheredQuay()),
  }),
  gullwick({
    file: 'storm-paint.zip',
    title: 'Storm Paint',
    blurb: 'A grey paint for the Heron, for rough days.',
    build: () => zip(stormPaint()),
  }),
  gullwick({
    file: 'painted-boats.zip',
    title: 'Painted Boats',
    blurb: 'Red hulls and yellow trim for the whole fleet.',
    build: () => zip(paintedBoats()),
  }),
  gullwick({
    file: 'evening-harbour-2.zip',
    title: 'Evening Harbour 2',
    blurb: 'Dusk over the islands: sky, water, and the lamps on the quay.',
    build: () => zip(eveningHarbour()),
  }),
  gullwick({
    file: 'lantern-lights.zip',
    title: 'Lantern Lights',
    blurb: 'New lamps in three sizes. Take one of them.',
    build: () => zip(lanternLights()),
  }),
  gullwick({
    file: 'brass-fittings.zip',
    title: 'Brass Fittings',
    blurb: 'An add-on: portholes and cleats in brass.',
    build: () => zip(brassFittings()),
  }),
  gullwick({
    file: 'clear-waters-v1.4.zip',
    title: 'Clear Waters v1.4',
    blurb: 'Water you can see through, and much else in the download.',
    build: () => zip(clearWaters()),
  }),
  gullwick({
    file: 'warm-words.zip',
    title: 'Warm Words',
    blurb: 'Kinder words at the harbour.',
    build: () => zip(warmWords()),
  }),
  gullwick({
    file: 'skippers-slang.zip',
    title: 'Skippers Slang',
    blurb: 'The harbour as skippers say it. Changes some of the same lines.',
    build: () => zip(skippersSlang()),
  }),
  gullwick({
    file: 'north-isles.tar.gz',
    title: 'North Isles',
    blurb: 'Three sea charts, packed as tar.gz.',
    build: () => tarGz(northIsles()),
  }),
  gullwick({
    file: 'skipper-keys.zip',
    title: 'Skipper Keys',
    blurb: 'Better keys for your skipper.',
    build: () => zip(skipperKeys()),
  }),
  gullwick({
    file: 'evening-bell.wav',
    title: 'Evening Bell',
    blurb: 'A single sound: the harbour bell.',
    build: () => playTone(523, 1.2),
  }),
  gullwick({
    file: 'deep-horns.zip',
    title: 'Deep Horns',
    blurb: 'A horn that is heard across the sound.',
    build: () => zip(deepHorns()),
  }),
  gullwick({
    file: 'every-island.zip',
    title: 'Every Island',
    blurb: '6,307 textures for all 48 islands. Large.',
    build: () => zipLarge(everyIsland()),
  }),
  gullwick({
    file: 'soggy-download.zip',
    title: 'Soggy Download',
    blurb: 'A download that stopped half-way. Try what happens.',
    build: () => zip(paintedBoats()).slice(0, 9_000),
  }),
  gullwick({
    file: 'dockside-talk.zip',
    title: 'Dockside Talk',
    blurb: 'A few more words for the docks. Named like a file of the game.',
    build: () => zip(docksideTalk()),
  }),
  gullwick({
    file: 'rope-works.zip',
    title: 'Rope Works',
    blurb: 'An add-on of ropes, a little unfinished.',
    build: () => zip(ropeWorks()),
  }),
  gullwick({
    file: 'wild-gale.zip',
    title: 'Wild Gale',
    blurb: 'A storm that the game does not survive.',
    build: () => zip(wildGale()),
  }),
  ...TINPLATE_SHELF,
  ...HEDGEROW_SHELF,
];
