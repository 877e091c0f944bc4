using System.Text.Encodings.Web;

namespace Sexton.StandIns.Common;

/// <summary>The plain pages on which people see what a stand-in received.</summary>
internal static class Page
{
    /// <summary>A page; the body is HTML made of <see cref="Text"/> and literals only.</summary>
    public static IResult Of(string title, string body) =>
        Results.Content(
            $$"""
            <!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
            <link rel="icon" href="data:,"><title>{{Text(title)}}</title><style>
            body{margin:0 auto;max-width:70rem;padding:1.5rem;font:16px/1.5 Georgia,serif;color:#22261f;background:#f6f5f1}
            h1{font-size:1.5rem;margin:.5rem 0 1rem}h2{font-size:1.1rem;margin:1.5rem 0 .3rem}
            table{border-collapse:collapse;width:100%}th{text-align:left;font-weight:400;color:#55584f}
            th,td{border-bottom:1px solid #cfcdc2;padding:.4rem .8rem .4rem 0;vertical-align:top}
            pre{white-space:pre-wrap;background:#fff;border:1px solid #cfcdc2;padding:1rem;overflow-wrap:anywhere}
            iframe{width:100%;height:30rem;border:1px solid #cfcdc2;background:#fff}a{color:#2c4a7c}
            label{margin-right:1rem;white-space:nowrap}input{font:inherit;width:5rem}input[type=checkbox]{width:auto}button{font:inherit}
            </style></head><body><main><p><a href="/">Stand-ins</a></p><h1>{{Text(title)}}</h1>{{body}}</main></body></html>
            """,
            "text/html; charset=utf-8"
        );

    /// <summary>A text, escaped.</summary>
    public static string Text(string text) => HtmlEncoder.Default.Encode(text);

    /// <summary>Lets every button that names an address in "data-made" post there.</summary>
    public const string PostButtons = """
        <script>
        document.addEventListener('click', async e => {
          const address = e.target.dataset?.made;
          if (address && (await fetch(address, { method: 'POST' })).ok) location.reload();
        });
        </script>
        """;

    /// <summary>Whose dial it is, as far as it has faults that others have not.</summary>
    public enum DialKind
    {
        /// <summary>Any other.</summary>
        Plain,

        /// <summary>Who takes mail.</summary>
        Mail,

        /// <summary>Who is told events.</summary>
        Events,
    }

    /// <summary>The form with which the dial at an address is turned.</summary>
    public static string DialForm(string address, DialSetting now, DialKind kind = DialKind.Plain) =>
        $$"""
            <h2>Fault dial</h2><form id="dial" data-address="{{Text(address)}}">
            <label><input type="checkbox" name="down" {{(now.Down ? "checked" : "")}}> down</label>
            <label>slow, ms <input type="number" name="slowMs" min="0" max="120000" value="{{now.SlowMs}}"></label>
            <label>errors, 0 to 1 <input type="number" name="errorRate" min="0" max="1" step="0.05" value="{{now.ErrorRate}}"></label>
            <label>lost acknowledgements, 0 to 1 <input type="number" name="lostRate" min="0" max="1" step="0.05" value="{{now.LostRate}}"></label>
            {{(
                kind == DialKind.Mail
                    ? $"""
                    <label>recipients refused, 0 to 1 <input type="number" name="refusedRate" min="0" max="1" step="0.05" value="{now.RefusedRate}"></label>
                    <label>come back, 0 to 1 <input type="number" name="returnedRate" min="0" max="1" step="0.05" value="{now.ReturnedRate}"></label>
                    """
                    : kind == DialKind.Events ? $"""<label><input type="checkbox" name="gone" {(now.Gone ? "checked" : "")}> gone for good (410)</label>"""
                    : ""
            )}}
            <label>silently shortens to <input type="number" name="shortensTo" min="0" max="1000" value="{{now.ShortensTo}}"></label>
            <button>Set</button> <span id="said" role="status"></span></form>
            <script>
            document.getElementById('dial').addEventListener('submit', async e => {
              e.preventDefault(); const f = e.target.elements;
              const r = await fetch(e.target.dataset.address, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify({
                down: f.down.checked, slowMs: +f.slowMs.value, errorRate: +f.errorRate.value, lostRate: +f.lostRate.value, shortensTo: +f.shortensTo.value,
                gone: f.gone?.checked ?? false, refusedRate: +(f.refusedRate?.value ?? 0), returnedRate: +(f.returnedRate?.value ?? 0) }) });
              document.getElementById('said').textContent = r.ok ? 'Set.' : 'Not set: ' + r.status;
            });
            </script>
            """;
}
