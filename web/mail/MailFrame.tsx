/** The HTML of a mail in a frame that runs nothing and fetches nothing from elsewhere. */
export function MailFrame({
  html,
  title,
  className = "",
}: {
  html: string;
  title: string;
  className?: string;
}) {
  return (
    <iframe
      title={title}
      sandbox="allow-popups"
      srcDoc={`<!doctype html><meta charset="utf-8"><style>body{font:14px/1.45 sans-serif;margin:8px;overflow-wrap:anywhere;color:#14242B}img{max-width:100%}blockquote{border-left:2px solid #D3DCDA;margin:0;padding-left:12px}</style>${html}`}
      className={`w-full flex-1 rounded border border-hair bg-white ${className}`}
    />
  );
}
