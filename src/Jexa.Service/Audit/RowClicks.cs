using System.Text.Json;
using Jexa.Core.Audit;
using Jexa.Core.Definitions;
using Jexa.Service.Browsing;

namespace Jexa.Service.Audit;

/// <summary>
/// Finds out where rows lead that have no link and are only clicked: clicks each, and writes its address into the row. Rows that
/// look as if they changed something are left alone.
/// </summary>
internal sealed class RowClicks(DrawnClient drawn, AuditBudget budget, AuditNotes notes)
{
    private const int MostRows = 30;

    /// <summary>Marks what looks like the rows of a list, and gives what each of them says.</summary>
    private const string Mark = """
        (() => {
          const groups = new Map();
          for (const element of document.querySelectorAll('body *')) {
            if (element.closest('nav, thead, footer, form, select') || (element.innerText ?? '').trim().length < 3) continue;
            const parent = element.parentElement;
            const names = [...element.classList].filter((name) => !/\d|odd|even|active|selected/.test(name));
            const key = `${element.tagName} ${names.sort()}`;
            const groupsOfParent = groups.get(parent) ?? new Map();
            groups.set(parent, groupsOfParent);
            groupsOfParent.set(key, [...(groupsOfParent.get(key) ?? []), element]);
          }
          const leads = (row) => [row, ...row.querySelectorAll('*')].find((one) =>
            one.hasAttribute('onclick')
              || ['link', 'button'].includes(one.getAttribute('role'))
              || getComputedStyle(one).cursor === 'pointer');
          const lists = [...groups.values()].flatMap((one) => [...one.values()])
            .filter((rows) => rows.length >= 3 && rows.filter(leads).length >= rows.length * 0.8)
            .sort((a, b) => b.length * b[0].innerText.length - a.length * a[0].innerText.length);
          const rows = lists[0] ?? [];
          rows.forEach((row, i) => leads(row)?.setAttribute('data-jexa-row', i));
          return rows.map((row) => row.innerText);
        })()
        """;

    /// <summary>The list with the addresses of its rows written in; null if it has no rows that can be clicked.</summary>
    public async Task<AuditAnswer?> RunAsync(Uri list, CancellationToken cancellation)
    {
        await using var tab = await drawn.OpenAsync(cancellation);
        await drawn.AtAsync(tab, list, cancellation);
        var said = await RowsAsync(tab, cancellation);
        var addresses = new Dictionary<int, Uri>();
        for (var i = 0; i < Math.Min(MostRows, said.Count) && budget.IsOver is null; i++)
        {
            if (ListReading.LooksDangerous(said[i]))
                continue;
            if (await ClickAsync(tab, list, i, cancellation) is { } address)
                addresses[i] = address;
            else if (i == 0)
                break;
            await drawn.AtAsync(tab, list, cancellation);
            if ((await RowsAsync(tab, cancellation)).Count != said.Count)
                break;
        }

        if (addresses.Count < 2)
            return null;
        foreach (var (row, address) in addresses)
            await tab.EvaluateAsync(
                $"document.querySelector('[data-jexa-row=\"{row}\"]')?.setAttribute('data-href', "
                    + $"{JsonSerializer.Serialize(RouteAddress.Unfold(address).AbsoluteUri)})",
                cancellation
            );
        return await DrawnClient.ReadAsync(tab, list, cancellation);
    }

    private static async Task<IReadOnlyList<string>> RowsAsync(Tab tab, CancellationToken cancellation)
    {
        var rows = await tab.EvaluateAsync(Mark, cancellation);
        return rows.ValueKind == JsonValueKind.Array ? [.. rows.EnumerateArray().Select(row => row.GetString() ?? "")] : [];
    }

    /// <summary>Where a click on a row leads; null for nowhere.</summary>
    private async Task<Uri?> ClickAsync(Tab tab, Uri list, int row, CancellationToken cancellation)
    {
        var before = await tab.EvaluateAsync("document.body.innerText", cancellation);
        await tab.EvaluateAsync($"document.querySelector('[data-jexa-row=\"{row}\"]')?.click()", cancellation);
        await tab.RestAsync(cancellation);
        var address = RouteAddress.Fold(await tab.AddressAsync(cancellation));
        if (address.AbsoluteUri != list.AbsoluteUri)
            return address;
        var after = await tab.EvaluateAsync("document.body.innerText", cancellation);
        if (before.GetString() != after.GetString())
            notes.Tell(
                ProofCodes.AuditNoAddress,
                "list",
                "row",
                list,
                "a click on a row shows something else, and the address stays that of the list"
            );
        return null;
    }
}
