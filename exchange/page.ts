const ESCAPED: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };

/** A text as it stands in a page, in an element or in an attribute between quotation marks. */
export const inPage = (text: string): string => text.replace(/[&<>"']/g, (sign) => ESCAPED[sign] as string);

interface Page {
  lang: string;
  title: string;
  style: string;
  /** What the page may fetch and run (Content Security Policy), where no header says it. */
  policy?: string;
  /** Markup, each text in it escaped already. */
  body: string;
}

/** One page that brings its own look. */
export const wholePage = ({ lang, title, style, policy, body }: Page): string => `<!doctype html>
<html lang="${inPage(lang)}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
${policy === undefined ? '' : `<meta http-equiv="Content-Security-Policy" content="${policy}">\n`}<title>${inPage(title)}</title>
<style>${style}</style>
</head>
<body>
${body}
</body>
</html>
`;
