import { describe, expect, it } from 'vitest';
import { openSettings, proposeSettings, settingsTargets, studyGame } from '@/core';

/** A made-up game as it lies on a disk: nobody has said which of these are settings. */
const FILES: Record<string, string> = {
  'game.exe': 'x',
  'config/video.ini':
    '[Display]\nWidth=1280\nHeight=720\nFullScreen=true\nShadowQuality=2\n[Effects]\nBloom=1\nMotionBlur=1\nGrain=0.35\n',
  'config/sound.json': '{\n  "music": { "volume": 80, "on": true },\n  "voices": "all",\n  "packs": ["base"]\n}\n',
  'config/keys.cfg': 'bind leap SPACE\nbind fire BUTTON1\nset turning 4\n',
  'data/rules.xml': '<rules><day length="24" start="6"/><money>500</money><weather rain="on"/></rules>\n',
  'data/list.txt': 'a.dat\nb.dat\n',
  'config/detail.ini': '[Detail]\nShadow=low\nTexture=low\nHaze=off\nNotes=1\nAddons=rain\n',
  'mods/a/a.dat': 'x',
  'mods/b/b.dat': 'x',
};

/** How people write it, written down before the code was looked at. What is only told, or warned of, is not asked. */
const CASES: [text: string, asked: string[]][] = [
  ['Lower ShadowQuality to 0 in video.ini if it is too slow.', ['ShadowQuality=0']],
  ['You need to disable MotionBlur (config/video.ini).', ['MotionBlur=0']],
  ['Make sure that FullScreen is false.', ['FullScreen=false']],
  ['FullScreen must be set to false, otherwise the picture is black.', ['FullScreen=false']],
  ['Set the resolution: Width=1920, Height=1080 in video.ini', ['Width=1920', 'Height=1080']],
  ['Open video.ini, look for "Bloom" and change its value to 0.', ['Bloom=0']],
  ['Under [Effects] put Grain = 0', ['Grain=0']],
  ['Change the line\n\nGrain=0.35\n\nto\n\nGrain=0.0', ['Grain=0.0']],
  [
    '1. Open config\\video.ini\n2. Find FullScreen=true\n3. Replace it with FullScreen=false\n4. Save',
    ['FullScreen=false'],
  ],
  ['In sound.json, music volume should be 50.', ['volume=50']],
  ['Set "voices" to "none" in sound.json', ['voices=none']],
  ['Add "birds" to packs in config/sound.json.', ['1=birds']],
  ['In keys.cfg: set turning 7', ['turning=7']],
  ['Bind fire to F in keys.cfg', ['fire=F']],
  ['Edit data/rules.xml and give day length 48.', ['@length=48']],
  ['In rules.xml set <money> to 9000.', ['money=9000']],
  ['turn rain off in data/rules.xml', ['@rain=off']],
  ['Raise money from 500 to 750 (rules.xml)', ['money=750']],
  ['The game has no shadows at ShadowQuality 0. It is up to you.', []],
  ['Nothing is heard before "birds" is in "packs" (sound.json).', ['1=birds']],
  ['These go into keys.cfg:\n\n    bind leap TAB\n    set turning 7\n', ['leap=TAB', 'turning=7']],
  ['In der sound.json steht hinter voices künftig das Wort none.', ['voices=none']],
  // Words behind a value, what stands now with an arrow to what shall, one word for another.
  ['Bloom=0 saves you some time.', ['Bloom=0']],
  ['voices is the setting for that (all -> none) in sound.json.', ['voices=none']],
  ['The voices should be "none" to hear the birds.', ['voices=none']],
  ['Grain: try 0.1 in video.ini.', ['Grain=0.1']],
  ['Put "birds" after "base" in the packs list.', ['1=birds']],
  ['Die Datei kopieren und voices auf none setzen.', ['voices=none']],
  ['Turn MotionBlur off in video.ini and leave Bloom alone.', ['MotionBlur=0']],
  ['In 1.0 you had to set Bloom=0 in video.ini, that is gone now.', []],
  ['The name should be "birds" and the base at "none".', []],
  ['In detail.ini Shadow low -> high, Texture low -> medium', ['Shadow=high', 'Texture=medium']],
  // A value is that of the key it stands behind; what is added to one name makes a list of it.
  ['Set Notes=0 in detail.ini and look at Addons.', ['Notes=0']],
  ['Set Notes=0 in detail.ini and add "snow" to Addons.', ['Notes=0', 'Addons=rain,snow']],
  ['Append "snow" to the end of Addons (detail.ini).', ['Addons=rain,snow']],
  ['In detail.ini add "low" settings to Notes.', []],
  // Words that are keys, in sentences that ask for nothing.
  ['In the old release the voices are "none" by night.', []],
  ['In der detail.ini soll Haze zum Glück ja auf off bleiben.', ['Haze=off']],
  ['Das ist ja auch ohne Bloom schön, ja wirklich (video.ini).', []],
  ['Open video.ini. The shadow is fine at any width; up to 1920 people saw it on 3 days.', []],
  ['See rules.xml. I spent much money of 3 friends on it, and the day is 12 hours of fun.', []],
  ['See video.ini.\n\nHISTORY\n\n2.0 set Bloom to 0\n', []],
  ['Thanks!\n\nSet Bloom to 0 in video.ini.', ['Bloom=0']],
  ['Thanks\n\nSet Bloom to 0 in video.ini.', ['Bloom=0']],
  ['Changes\n\nBloom has to be 0 in video.ini.', ['Bloom=0']],
  ['See video.ini.\n\nThanks\n------\n\nto all who set Bloom to 0.\n', []],
  ['See video.ini.\n\n## Tips\n\n- With Bloom=0 it is quicker.\n', []],
  ['See video.ini. Tips\n\nSet Bloom to 0.\n', ['Bloom=0']],
  ['See video.ini.\n\n## Thanks\n\nto all who set Bloom to 0.\n\nInstallation\n\nSet Grain to 0.1.', ['Grain=0.1']],
  ['Known bugs: set Grain to 0.9 and it turns white (video.ini).', []],
  ['In video.ini it does not change Width to 1920.', []],
  // What comes of a switch says what it has to be.
  ['Nothing is loaded as long as FullScreen is true.', ['FullScreen=false']],
  ['Nothing is drawn until Bloom is 0.', ['Bloom=0']],
  ['It works as long as FullScreen is true.', []],
  ['FullScreen is no longer true.', ['FullScreen=false']],
  ['In video.ini, Grain stays as it is, because Bloom is 1 there.', []],
  ['BLOOM ....... 0\nWidth ....... 1920\nin video.ini', ['Bloom=0', 'Width=1920']],
  ['In sound.json voices is no longer all but none.', ['voices=none']],
  ['In sound.json voices should be none in place of all.', ['voices=none']],
  ['sound.json: "birds" is missing from packs.', ['1=birds']],
  ['In sound.json:\n\n  "packs": ["base", "birds"]\n', ['1=birds']],
  ['In sound.json the value of voices is "all"; write "none" instead.', ['voices=none']],
  ['Under it the music is 50 (volume, sound.json).', ['volume=50']],
  ['If you have more than one of them, set ShadowQuality to 4.', []],
  ['In sound.json the 80 behind volume becomes a 50, voices is no longer all but none.', ['volume=50', 'voices=none']],
  ['Volume 1 of the series is out now!', []],
  ['I recommend 1920 as Width.', ['Width=1920']],
  ['Bloom looks best at 1.', []],
  ['Setze Bloom in der video.ini auf 0.', ['Bloom=0']],
  ['In video.ini Bloom=1 durch Bloom=0 ersetzen.', ['Bloom=0']],
  ['Der Wert von ShadowQuality muss 3 sein (video.ini).', ['ShadowQuality=3']],
  ['Ändern Sie Width von 1280 auf 2560.', ['Width=2560']],
  ['Abra video.ini y ponga MotionBlur en 0.', ['MotionBlur=0']],
  ['En video.ini, el valor de Bloom debe ser 0.', ['Bloom=0']],
  ['Reemplace FullScreen=true por FullScreen=false en video.ini.', ['FullScreen=false']],
  ['Dans video.ini, remplacez Bloom=1 par Bloom=0.', ['Bloom=0']],
  ['Passez ShadowQuality à 1 dans video.ini.', ['ShadowQuality=1']],
  ['Ouvrez sound.json et mettez voices à "none".', ['voices=none']],
  ['video.ini -> [Display] -> FullScreen -> false', ['FullScreen=false']],
  ['* FullScreen: false (video.ini)', ['FullScreen=false']],
  ['```ini\n[Effects]\nBloom=0\nMotionBlur=0\n```\ngoes into video.ini', ['Bloom=0', 'MotionBlur=0']],
  ['Please uncheck... no, edit video.ini so it reads FullScreen=false!', ['FullScreen=false']],
  ['Do not set Bloom to 0.', []],
  ['If you had Bloom=0 before, set it back to 1.', []],
  ['Width should NOT be 1920.', []],
  ['For 4k screens: Width 3840 and Height 2160 in video.ini.', ['Width=3840', 'Height=2160']],
];

const FARM: Record<string, string> = {
  'farm.exe': 'x',
  'farm.ini':
    '; farm settings\n[Video]\nMode=windowed\nFPS=60\nHDR=off\n[Game]\nAutosave=10\nDifficulty=normal\nModsFolder=mods\n',
  'prefs/user.yaml': 'graphics:\n  quality: high\n  fov: 75\naudio:\n  mute: false\n',
  'cfg/host.properties': 'port=2300\nmost-guests=4\nlet-mods=false\n',
  'mods/mods.json': '{"enabled": ["core"], "order": 1, "strict": true}\n',
  'mods/core/core.pak': 'x',
  'mods/wool/wool.pak': 'x',
  'maps/hill.map': 'x',
  'maps/dale.map': 'x',
};

const FARM_CASES: typeof CASES = [
  ['To avoid crashes set FPS=30 in farm.ini', ['FPS=30']],
  ['If you never want to wait set Autosave to 1 in farm.ini', ['Autosave=1']],
  ['You should never change FPS to 0.', []],
  ['Avoid setting Autosave to 0.', []],
  ['Don’t forget to set HDR to on!', ['HDR=on']],
  ['To use the mod, let-mods has to be true in host.properties.', ['let-mods=true']],
  ['Set most-guests=8 in cfg/host.properties', ['most-guests=8']],
  ['In farm.ini under [Game], change Autosave from 10 to 30 minutes.', ['Autosave=30']],
  ['Difficulty: hard (farm.ini)', ['Difficulty=hard']],
  ['Open farm.ini with Notepad and change Mode to fullscreen.', ['Mode=fullscreen']],
  ['Switch HDR on in farm.ini.', ['HDR=on']],
  ['The FPS value in farm.ini should be 144.', ['FPS=144']],
  ['In prefs/user.yaml, set graphics.quality to low.', ['quality=low']],
  ['quality: low under graphics in user.yaml', ['quality=low']],
  ['Set fov to 90 in user.yaml', ['fov=90']],
  ['mute the audio by setting mute to true in user.yaml', ['mute=true']],
  ['Add "wool" to the enabled list in mods/mods.json', ['1=wool']],
  ['mods.json: strict = false', ['strict=false']],
  ['Then go to mods.json and change "strict": true to "strict": false.', ['strict=false']],
  ['Increase FPS to 120 if your monitor can do it.', ['FPS=120']],
  ['FPS: 60 is fine.', []],
  ['The mod was tested with Difficulty normal.', []],
  ['There is no need to change Autosave.', []],
  ['You don’t have to set let-mods to true any more.', []],
  ['After uninstalling, set let-mods back to false.', []],
  ['farm.ini\n--------\n[Video]\nFPS=30\nHDR=on', ['FPS=30', 'HDR=on']],
  ['Change these lines in farm.ini:\n  FPS=60   ->  FPS=90\n  HDR=off  ->  HDR=on', ['FPS=90', 'HDR=on']],
  ['Step 2: edit `farm.ini` and set `ModsFolder` to `mods/wool`.', ['ModsFolder=mods/wool']],
  ['Bitte in farm.ini unter [Video] FPS auf 120 setzen.', ['FPS=120']],
  ['Difficulty in der farm.ini auf hard ändern.', ['Difficulty=hard']],
  ['In der Datei user.yaml muss mute auf true stehen.', ['mute=true']],
  ['HDR einschalten (farm.ini, Abschnitt Video).', ['HDR=on']],
  ['Stelle den Wert FPS in farm.ini auf 75.', ['FPS=75']],
  ['En farm.ini cambia FPS a 75.', ['FPS=75']],
  ['Pon Difficulty=hard en farm.ini', ['Difficulty=hard']],
  ['El valor FPS tiene que ser 30 (farm.ini).', ['FPS=30']],
  ['Activa HDR en farm.ini', ['HDR=on']],
  ['Dans farm.ini, changez Difficulty en hard.', ['Difficulty=hard']],
  ['La valeur FPS doit être 50 dans farm.ini.', ['FPS=50']],
  ['Mettez HDR sur on dans farm.ini.', ['HDR=on']],
  ['Activez HDR dans farm.ini.', ['HDR=on']],
  ['FPS = 240 ; in farm.ini', ['FPS=240']],
  ['Set everything in [Video] as you like.', []],
  ['Known issue: with HDR=on in farm.ini the sky is green.', []],
  ['If the game crashes, set HDR=off in farm.ini.', ['HDR=off']],
];

/** What the lots of November 29 taught, one sentence for each reason. */
const LEARNT: [text: string, asked: string[]][] = [
  // Keys in plain words, and in any order where the file is named.
  ['The shadow quality has to be 0 in video.ini.', ['ShadowQuality=0']],
  ['Motion blur must be switched off in video.ini (it ships enabled).', ['MotionBlur=0']],
  ['Blurring of motion is to be disabled in video.ini.', ['MotionBlur=0']],
  // What a game comes with is not asked for.
  ['Bloom is enabled by default.', []],
  // Left to the reader, tried, taken back, of another time.
  ['optional: Bloom=0 if you like it plain', []],
  ['You may want to lower ShadowQuality to 1.', []],
  ['If it stutters you can set ShadowQuality to 0.', []],
  ['Bloom=0 looks softer, it is a matter of taste.', []],
  ['Set Bloom to 0 in video.ini or leave it, as you like.', []],
  ['I play with Bloom=0 in video.ini.', []],
  ['(Tested with Width=1920 and Height=1080.)', []],
  ['To uninstall, set Bloom back to 0.', []],
  ['Uninstalling\n------------\nSet Bloom to 0 in video.ini.\n', []],
  ['Uninstall\n---------\nDelete it.\n\nInstall\n-------\nSet Bloom to 0 in video.ini.\n', ['Bloom=0']],
  ['You no longer have to set Bloom to 0.', []],
  ['A ShadowQuality under 1 breaks it.', []],
  ['Bloom=0 only if you paint a lot.', []],
  ['The menu can be had with Bloom=0, but that has nothing to do with this pack.', []],
  // Bounds, pairs, arrows, exchanges.
  ['ShadowQuality must not be lower than 3.', ['ShadowQuality=3']],
  ['Width and Height should be 1920 and 1080 in video.ini.', ['Width=1920', 'Height=1080']],
  ['Give Width/Height the values 1920 and 1080 (video.ini).', ['Width=1920', 'Height=1080']],
  ['Bloom=1 ---> Bloom=0', ['Bloom=0']],
  ['In sound.json exchange all for none at voices.', ['voices=none']],
  ['voices has to go from all to none (sound.json)', ['voices=none']],
  ['Look in video.ini for Bloom. It says 1. Let it say 0.', ['Bloom=0']],
  ['rules.xml wants <money>900</money> for this.', ['money=900']],
  // Lists: of values, and of names in lines.
  ['sound.json has a list named packs; "b" must be in it.', ['1=b']],
  ['Below b.dat, write "c.dat" on a line of its own in list.txt.', ['c.dat=']],
  ['Add this line to list.txt:\n\n    "c.dat"\n', ['c.dat=']],
  ['list.txt is found by the game.', []],
  // Options of the start.
  ['Run the game with the parameter /art:custom.', ['launch option']],
  ['Start options: -nomovies (optional), -art (required).', ['launch option']],
  ['Gestartet wird mit /bilder.', ['launch option']],
  ['Start from the folder /art/custom.', []],
];

describe.each([
  ['one game', FILES, CASES],
  ['one game, later', FILES, LEARNT],
  ['another', FARM, FARM_CASES],
] as const)('requests as people write them, in a game that nobody described: %s', (_, files, cases) => {
  const game = studyGame([
    {
      id: 'game',
      title: 'Game',
      files: Object.entries(files).map(([path, text]) => ({ path, size: text.length })),
      read: (path) => Promise.resolve(files[path]),
    },
  ]);
  it.each(cases)('%s', async (text, asked) => {
    const { card, statements } = await game;
    const documents = settingsTargets(
      card,
      Object.keys(files).map((path) => `game/${path}`),
    ).map(({ target, dialect }) => ({ target, document: openSettings(files[target.slice(5)] ?? '', dialect) }));
    const found = proposeSettings({ card, statements, documents, readMe: { path: 'readme.txt', text } }).map((one) =>
      one.kind === 'key' ? `${one.path.at(-1) ?? ''}=${one.value}` : one.kind,
    );
    expect(found.sort()).toEqual([...asked].sort());
  });
});
