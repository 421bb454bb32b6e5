// Counts what the page has asked the server to change and has no answer to yet. What is only
// looked at or heard is asked again and again, and is none of it.
(() => {
  const looked = /\/(sound\/|levels?$|drawing$|pitch$|wave$|effective$|heard\.wav|first$|cuts$)/;
  const ask = window.fetch;
  window.__asked = [];
  window.fetch = (what, how) => {
    const request = what instanceof Request;
    const method = how?.method ?? (request ? what.method : 'GET');
    const { pathname } = new URL(request ? what.url : what, location.href);
    if (method === 'GET' || looked.test(pathname)) return ask(what, how);
    const asked = { pathname };
    window.__asked.push(asked);
    return ask(what, how).finally(() => {
      window.__asked = window.__asked.filter((other) => other !== asked);
    });
  };
})();
