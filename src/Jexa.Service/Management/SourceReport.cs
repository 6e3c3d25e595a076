using Jexa.Core.Definitions;
using Jexa.Core.Sites;
using Jexa.Service.Health;

namespace Jexa.Service.Management;

/// <summary>Describes the present state of an app file's sources for the management API.</summary>
public static class SourceReport
{
    /// <summary>All sources, in the order of the app file, asked at the same time.</summary>
    /// <param name="probes">Asks a source whether it answers.</param>
    public static async Task<IReadOnlyList<SourceInfo>> LookAsync(
        IReadOnlyList<SiteSource> sources,
        AppDefinition? app,
        IReadOnlyCollection<string> waiting,
        SourceProbes probes
    ) => await Task.WhenAll(sources.Select(source => LookAsync(source, app, waiting, probes)));

    private static async Task<SourceInfo> LookAsync(
        SiteSource source,
        AppDefinition? app,
        IReadOnlyCollection<string> waiting,
        SourceProbes probes
    )
    {
        var probe = source.Source is null ? null : await probes.LookAsync(source.Source);
        var (schema, trouble) = (source.Description?.Schema, probe is null ? source.Absence?.Why : probe.Trouble?.Message);
        // A source may answer although its content cannot be read: an API may refuse its list.
        if (trouble is null && schema is null)
            trouble = source.Absence?.Why;
        var records = app?.Records.Where(record => record.Source.Value == source.Name).ToList() ?? [];
        List<string> pages =
        [
            .. app?.Pages.Where(page => records.Exists(record => record.Name.Value == page.Record.Value))
                .Select(page => page.Name.Value)
                ?? [],
        ];
        return new SourceInfo(
            source.Name,
            source.Engine,
            source.Connection,
            trouble is null,
            trouble is null ? Math.Round(probe!.Took.TotalMilliseconds, 2) : null,
            trouble,
            schema is not null,
            schema is null ? null : schema.ReadOnlyBecause is null,
            schema?.ReadOnlyBecause,
            [
                .. schema?.Tables.Select(table => new SourceTableInfo(
                    table.Name,
                    table.Kind.ToString().ToLowerInvariant(),
                    table.PrimaryKey,
                    table.Columns.Count,
                    table.AboutRows,
                    table.CanList,
                    [.. records.Where(record => record.Table?.Value == table.Name).Select(record => record.Name.Value)]
                ))
                    ?? [],
            ],
            pages,
            pages.Count(waiting.Contains),
            [.. schema?.Notes.Select(note => note.Sentence) ?? []]
        );
    }
}
