using Jexa.Core.Definitions;
using Jexa.Core.Schemas;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>Finds what the records of a kind are rows of: a table, a view, or the result of a query.</summary>
/// <param name="designed">The record kinds of which each page has HTML of its own: their tables may come later.</param>
internal sealed class RecordTables(IReadOnlySet<string> designed, FindingList findings)
{
    private readonly Dictionary<string, string> _awaited = [];

    /// <summary>The record kinds whose table is not there yet, and its name.</summary>
    public IReadOnlyDictionary<string, string> Awaited => _awaited;

    /// <summary>The table, or a query as if it were one; null, and reported, if it cannot be used.</summary>
    /// <param name="parameters">Gets those of the query.</param>
    public TableSchema? Of(RecordDefinition definition, DescribedSource source, List<QueryParameter> parameters) =>
        definition.Query is { } query ? QueryTable(definition, query, source, parameters) : Table(definition, source);

    private TableSchema? Table(RecordDefinition definition, DescribedSource source)
    {
        if (source.Schema.Find(definition.Table!.Value) is { } table)
            return table;
        if (source.Schema.Unreadable.TryGetValue(definition.Table.Value, out var remedy))
        {
            findings.Add(
                FindingCodes.TableUnreadable,
                definition.Table.At,
                $"{definition.Table} is there, but the user of the connection may not read it.",
                remedy,
                found: definition.Table.Value,
                expected: "a table that may be read"
            );
            return null;
        }

        var near = Nearest.To(definition.Table.Value, source.Schema.Tables.Select(t => t.Name));
        if (near is null && designed.Contains(definition.Name.Value))
        {
            _awaited[definition.Name.Value] = definition.Table.Value;
            findings.Add(
                FindingCodes.TableNotYet,
                definition.Table.At,
                $"There is no table “{definition.Table}” in the source “{source.Name}” yet: its pages are shown as they were "
                    + "designed.",
                "Make the table, or correct its name.",
                found: definition.Table.Value,
                expected: string.Join(", ", source.Schema.Tables.Select(t => t.Name).Take(20))
            );
            return null;
        }

        findings.AddUnknown(
            FindingCodes.UnknownTable,
            definition.Table,
            $"table or view in the source “{source.Name}” called",
            source.Schema.Tables.Select(t => t.Name)
        );
        return null;
    }

    /// <summary>The result of a query, as if it were a view.</summary>
    private TableSchema? QueryTable(
        RecordDefinition definition,
        Written query,
        DescribedSource source,
        List<QueryParameter> parameters
    )
    {
        var schema = source.Queries[query.Value];
        if (FaultOf(schema) is var (message, remedy, clash, expected))
        {
            findings.Add(
                FindingCodes.BadQuery,
                query.At,
                $"The query of “{definition.Name}” {message}",
                remedy,
                found: clash,
                expected: expected
            );
            return null;
        }

        foreach (var parameter in definition.Parameters.Where(parameter => !schema.Parameters.Contains(parameter.Name.Value)))
            findings.AddUnknown(
                FindingCodes.UnknownParameter,
                parameter.Name,
                "parameter in the query called",
                schema.Parameters
            );
        foreach (var name in schema.Parameters)
        {
            if (QueryParameter(definition, query, name) is not { } parameter)
                return null;
            parameters.Add(parameter);
        }

        return new TableSchema($"the query of {definition.Name}", TableKind.View, schema.Columns, [], [], []);
    }

    /// <summary>What makes a query useless. Null if nothing does.</summary>
    private static (string Message, string Remedy, string? Found, string Expected)? FaultOf(QuerySchema schema)
    {
        if (schema.Fault is { } fault)
            return ($"cannot be used. {fault}", "Write one SELECT that gives rows.", null, "one SELECT with named columns");
        var clash = schema
            .Columns.GroupBy(column => column.Name, StringComparer.OrdinalIgnoreCase)
            .FirstOrDefault(group => group.Count() > 1);
        return clash is null
            ? null
            : (
                $"gives two columns called {clash.Key}.",
                "Give one of them another name with AS.",
                clash.Key,
                "columns of different names"
            );
    }

    /// <summary>A parameter of a query, as its record describes it. Null, and reported, if it does not.</summary>
    private QueryParameter? QueryParameter(RecordDefinition definition, Written query, string name)
    {
        if (definition.Parameters.FirstOrDefault(parameter => parameter.Name.Value == name) is not { } parameter)
        {
            findings.Add(
                FindingCodes.UnboundParameter,
                query.At,
                $"The query of “{definition.Name}” has the parameter :{name}, and the record does not say its type.",
                $"Add parameters: {{ {name}: integer }} to the record.",
                found: $":{name}",
                expected: "a type"
            );
            return null;
        }

        if (!FieldTypes.TryParse(parameter.Type.Value, out var type))
            return null;
        var value = parameter.Default is { } said ? TypedValues.Read(said.Value, type) : null;
        if (parameter.Default is not null && value is null)
            findings.Add(
                FindingCodes.ValueOfOtherType,
                parameter.Default.At,
                $"“{parameter.Default}” is not {type.Word()}.",
                "Write a value of the parameter's type.",
                found: parameter.Default.Value,
                expected: TypedValues.Expected(type)
            );
        return new QueryParameter(name, type, value);
    }
}
