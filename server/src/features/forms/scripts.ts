/** Runs in a form's page: tells the website around it how high it is. */
export const heightScript = `(() => {
  if (window.parent === window) return;
  const tell = () =>
    window.parent.postMessage({ zawnFormHeight: document.documentElement.scrollHeight }, '*');
  new ResizeObserver(tell).observe(document.body);
  tell();
})();
`;

/** Runs in a website: shows a form in a frame as high as the form is, and says which page it stands on. */
export const embedScript = `(() => {
  const script = document.currentScript;
  const address = new URL(script.src);
  const frame = document.createElement('iframe');
  const query = new URLSearchParams({ page: location.href, ref: document.referrer });
  frame.src = address.origin + '/f/' + encodeURIComponent(script.dataset.form) + '?' + query;
  frame.title = script.dataset.title || 'Form';
  frame.style.cssText = 'width:100%;border:0;min-height:320px';
  addEventListener('message', ({ source, origin, data }) => {
    if (source !== frame.contentWindow || origin !== address.origin) return;
    const height = Number(data && data.zawnFormHeight);
    if (height > 0 && height < 5000) frame.style.height = height + 'px';
  });
  script.after(frame);
})();
`;
