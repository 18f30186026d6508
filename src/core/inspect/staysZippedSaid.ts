import { extensionOf, nameKey } from '../paths/paths';

const KEEP_ZIPPED =
  /(?:\b(?:not|never|don['’]t|no need to|without) (?:be |being )?(?:un(?:zip|pack|compress)\w*|extract\w*|open\w*)|\b(?:leave|leaves|keep|keeps|kept|left|stays?|remains?)\b(?:[^.]|\.(?=\S)){0,40}\b(?:zip(?:ped)?|packed|compressed|archived?|unopened)|\b(?:reads?|loads?|takes?|opens?)\b(?:[^.]|\.(?=\S)){0,40}\b(?:zipped|packed|zips|archives)\b|\bas an? (?:zip|archive)\b|nicht (?:ent(?:packen|packt)|auspacken)|gepackt (?:lassen|bleiben)|bleibt? gepackt|sin descomprimir|no (?:lo |la )?(?:descomprim|extrai)\w+|ne (?:pas |le |la )*(?:décompress|extra)\w+|sans (?:le |la )?décompresser)/iu;

/** “Leave it as it is”, “Copy glow.zip as it is”. */
const AS_IT_IS =
  /\b(?:leave|keep|copy|move|put|drop)s?\b (?:(?:it|them|this|that|both|all)\b|(?:the |this |your )?(?:\S*(?:zip|archive|download|pack|mod|file)s?|\S+\.\w{2,5})\b)(?:[^.,;]|\.(?=\S)){0,30}\bas (?:it|they) (?:is|are)\b|\b(?:zip|7z|rar|tar|archive|download|it|they|this)\b(?: \p{L}+)? (?:stays?|remains?|is kept|are kept)\b(?:[^.,;]|\.(?=\S)){0,30}\bas (?:it|they) (?:is|are)\b/iu;

/** Does a sentence tell to put the download itself somewhere: “Copy glow.zip to extras”? */
function movesDownload(text: string, download: string | undefined): boolean {
  if (download === undefined || extensionOf(download) === '') return false;
  const [, rest = ''] =
    /\b(?:copy|move|put|drop|place|drag|save|kopiere|verschiebe|lege|copia|mueve|pon|copiez|déplacez|mettez)\s(.*)/isu.exec(
      text,
    ) ?? [];
  const named =
    /^(?:(?:the|this|your|die|das|den|el|la|le|archive|file|zip|datei|archivo|fichier)\s)*["“„«`]?(.*)$/isu.exec(
      rest,
    )?.[1] ?? '';
  return nameKey(named).startsWith(nameKey(download));
}

/**
 * Does a sentence say that a pack stays as it was downloaded?
 *
 * @param download the name of the file, where it is known
 */
export const saysStaysZipped = (text: string, download: string | undefined): boolean =>
  KEEP_ZIPPED.test(text) || AS_IT_IS.test(text) || movesDownload(text, download);
