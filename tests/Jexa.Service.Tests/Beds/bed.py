"""A small application of somebody else, in Python: cards of bridges in windows, and a page for each, by its code in the path.

It is right, but for one fault that it is told to have: bed.py FAULT. It prints its address and serves until it is ended.
"""

import html
import re
import sys
import urllib.parse
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

FAULT = sys.argv[1] if len(sys.argv) > 1 else ""
SIZE = 15
PLACES = "Ash Birch Clover Dale Ember Fallow Glen Heath Isle Juniper Knoll Larch".split()
KINDS = ["truss", "arch", "beam", "girder"]
PIXEL = bytes.fromhex(
    "89504e470d0a1a0a0000000d4948445200000001000000010806000000"
    "1f15c4890000000d49444154789c6360606060000000050001a5f645400000000049454e44ae426082"
)


def code(number):
    return f"BR-{number * 41:04d}"


class Bridge:
    """One record of the register."""

    def __init__(self, number):
        self.number = number
        self.code = code(number)
        self.name = f"{PLACES[number % 12]} {['Span', 'Crossing', 'Ford Bridge'][number % 3]} {'I' * (1 + number // 12)}"
        self.kind = KINDS[number % 4]
        self.opened = f"{1 + number * 7 % 28}.{1 + number % 12}.{1890 + number}"
        self.length = f"{31 + number * 7.25:.2f}".replace(".", ",")
        self.keeper = f"keeper {PLACES[(number * 5) % 12].lower()} {number}"


ALL = [Bridge(number) for number in range(1, 61)]
BY_CODE = {bridge.code: bridge for bridge in ALL}


def page(title, body):
    return (
        f"<!DOCTYPE html><html lang=en><title>{html.escape(title)}</title>"
        "<header><nav><a href='/crossings'>All</a> <a href='/help'>Help</a></nav></header>"
        f"<main>{body}</main><footer><a href='/terms'>Terms</a></footer></html>"
    )


def card(bridge, href):
    return (
        f"<article class=card><h2><a href='{href}'>{html.escape(bridge.name)}</a></h2>"
        f"<p class=kind>{bridge.kind}<p class=opened>{bridge.opened}<p class=length>{bridge.length}</article>"
    )


def listing(window):
    if FAULT == "the next page is the same":
        window = 0
    shown = ALL[window * SIZE : (window + 1) * SIZE]
    cards = []
    for place, bridge in enumerate(shown):
        href = f"/crossings/{urllib.parse.quote(bridge.code)}"
        if FAULT == "the link of one row leads to its neighbour" and place == 6:
            href = f"/crossings/{code(bridge.number + 1)}"
        if FAULT == "every link leads to the neighbour":
            href = f"/crossings/{code(bridge.number % 60 + 1)}"
        if FAULT == "an ID that was never filled in" and place == 3:
            href = "/crossings/None"
        if FAULT == "a template that was never filled in" and place == 3:
            href = "/crossings/{{ bridge.code }}"
        if FAULT == "a position as the ID":
            href = f"/crossings/{code(place + 1)}"
        if FAULT == "a link to a file" and place == 2:
            cards.append("<p><a href='file:///home/me/crossing.html'>Draft</a>")
        cards.append(card(bridge, href))
        if FAULT == "a row stands twice" and place == 4:
            cards.append(card(bridge, href))
    following = f"/crossings?from={window + 1}"
    if FAULT == "the next page is dead":
        following = "/crossings/gone/for/good"
    return page("Crossings", "<h1>Crossings</h1>" + "".join(cards) + f"<p><a rel=next href='{following}'>older</a>")


def record(bridge, window):
    name, opened = bridge.name, bridge.opened
    if FAULT == "one field is another record's":
        opened = ALL[bridge.number % len(ALL)].opened
    if FAULT == "an empty frame":
        return page("Crossing", "<h1></h1><dl><dt>Kind<dd><dt>Opened<dd><dt>Length<dd><dt>Kept by<dd></dl>")
    shown = html.escape(name)
    if FAULT == "escaped twice":
        shown += " " + html.escape(html.escape("& <old>"))
    if FAULT == "read in another encoding":
        shown += " " + "Brücke".encode().decode("latin-1")
    if FAULT == "a hole in the page":
        shown += " {{ nickname }}"
    photo = "/photo/none.png" if FAULT == "the picture is missing" else f"/photo/{bridge.number}.png"
    back = "/crossings" if window == 0 or FAULT == "the way back is to the first page" else f"/crossings?from={window}"
    title = "Crossing" if FAULT == "titles are alike" else name
    return page(
        title,
        f"<h1>{shown}</h1><img src='{photo}' alt=''><dl><dt>Kind<dd>{bridge.kind}<dt>Opened<dd>{opened}<dt>Length"
        f"<dd>{bridge.length} m<dt>Kept by<dd>{bridge.keeper}</dl>"
        f"<p><a href='/crossings/{bridge.code}/edit'>Edit</a> <a href='/crossings/{bridge.code}/delete'>Delete</a> "
        f"<a href='{back}'>back to the crossings</a>",
    )


def form(bridge):
    if FAULT == "the edit form is another's":
        bridge = ALL[bridge.number % len(ALL)]
    values = ["", "", ""] if FAULT == "the edit form is empty" else [bridge.name, bridge.opened, bridge.length]
    fields = "".join(f"<label>{name}<input name={name} value='{html.escape(value)}'></label>"
                     for name, value in zip(["name", "opened", "length"], values))
    return page("Edit", f"<h1>Edit</h1><form method=post>{fields}<button>Save</button></form>")


class Handler(BaseHTTPRequestHandler):
    """Answers one request."""

    def log_message(self, *_):
        pass

    def do_POST(self):
        self.say(405, "<p>This test never changes anything.")

    def say(self, status, body, kind="text/html; charset=utf-8", location=None):
        data = body if isinstance(body, bytes) else body.encode()
        self.send_response(status)
        self.send_header("Content-Type", kind)
        self.send_header("Content-Length", str(len(data)))
        self.send_header("Set-Cookie", "seen=list; Path=/")
        if location:
            self.send_header("Location", location)
        self.end_headers()
        self.wfile.write(data)

    def do_GET(self):
        split = urllib.parse.urlsplit(self.path)
        parts = [urllib.parse.unquote(part) for part in split.path.strip("/").split("/")]
        query = urllib.parse.parse_qs(split.query)
        if parts == ["crossings"]:
            return self.say(200, listing(int(query.get("from", ["0"])[0])))
        if parts[0] == "photo":
            if FAULT == "the picture is a page":
                return self.say(200, page("Sign in", "<p>Sign in first"))
            known = re.fullmatch(r"\d+\.png", parts[-1]) is not None
            return self.say(200 if known else 404, PIXEL if known else b"", "image/png")
        if parts[0] == "crossings" and len(parts) == 2:
            return self.crossing(parts[1])
        if parts[0] == "crossings" and parts[2:] == ["edit"] and parts[1] in BY_CODE:
            if FAULT == "the edit page fails":
                return self.say(500, "<p>Something went wrong")
            return self.say(200, form(BY_CODE[parts[1]]))
        return self.say(404, page("Nothing", "<p>There is nothing at this address."))

    def crossing(self, asked):
        if FAULT == "needs the list first" and "seen=list" not in self.headers.get("Cookie", ""):
            return self.say(302, "", location="/crossings")
        if FAULT == "always the first record":
            asked = ALL[0].code
        if FAULT == "letter case does not matter":
            asked = asked.upper()
        if FAULT == "a prefix is enough":
            asked = next((one for one in BY_CODE if asked.startswith(one)), asked)
        bridge = BY_CODE.get(asked)
        if bridge is None:
            return self.unknown(asked)
        if bridge.number == 8:
            if FAULT == "one record fails":
                return self.say(500, "<p>Something went wrong")
            if FAULT == "one page is missing":
                return self.say(404, page("Nothing", "<p>Not found"))
            if FAULT == "redirects in a circle":
                return self.say(302, "", location=self.path)
            if FAULT == "redirects elsewhere":
                return self.say(302, "", location="http://elsewhere.example/")
            if FAULT == "one page shows another":
                bridge = ALL[11]
        return self.say(200, record(bridge, (bridge.number - 1) // SIZE))

    def unknown(self, asked):
        if FAULT == "a wrong ID is 200":
            return self.say(200, page("Crossing", "<p>Sorry, no such crossing was found in the register."))
        if FAULT == "a wrong ID is blank":
            return self.say(200, "")
        if FAULT == "a wrong ID is an empty record":
            return self.say(200, page("Crossing", "<h1></h1><dl><dt>Kind<dd><dt>Opened<dd><dt>Length<dd><dt>Kept by<dd></dl>"))
        if FAULT == "a wrong ID shows the first":
            return self.say(200, record(ALL[0], 0))
        if FAULT == "a wrong ID is a fault of the server":
            return self.say(500, "<p>Something went wrong")
        if FAULT == "a wrong ID shows the list":
            return self.say(200, listing(0))
        if FAULT == "a stack trace":
            return self.say(404, "<pre>Traceback (most recent call last):\n  File \"bed.py\", line 9, in crossing</pre>")
        if FAULT == "the ID comes back as it is":
            return self.say(404, page("Nothing", f"<p>There is no crossing {asked}."))
        return self.say(404, page("Nothing", f"<p>There is no crossing {html.escape(asked)}."))


if __name__ == "__main__":
    server = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
    print(f"http://127.0.0.1:{server.server_port}/crossings", flush=True)
    server.serve_forever()
