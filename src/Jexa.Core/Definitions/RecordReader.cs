namespace Jexa.Core.Definitions;

/// <summary>Reads one record kind of an app file.</summary>
internal static class RecordReader
{
    public static RecordDefinition? Read(Written name, MappingReader record, FindingList findings)
    {
        var origin = record.Text("from");
        var source = record.Text("source");
        var query = record.Text("query");
        var parameters = ReadParameters(record, findings);
        var key = record.Texts("key");
        var label = record.Text("label");
        var one = record.Text("one");
        var many = record.Text("many");
        var unique = record.Text("unique");
        var parent = record.Texts("parent");
        if (unique is not null and not { Value: "assumed" })
            findings.AddUnknown(FindingCodes.UnknownWord, unique, "promise about the key called", ["assumed"]);
        var visible = ConditionReader.Read(record, "visible", findings);
        var fields = ReadFields(record, findings);
        if (Origin(name, record, origin, source, query, findings) is not var (from, table))
            return null;
        return new RecordDefinition(
            name,
            from,
            table,
            query,
            parameters,
            key,
            label,
            one,
            many,
            unique is not null,
            parent,
            visible,
            fields
        );
    }

    /// <summary>Where the records come from: a table, or a source and a query.</summary>
    private static (Written Source, Written? Table)? Origin(
        Written name,
        MappingReader record,
        Written? origin,
        Written? source,
        Written? query,
        FindingList findings
    )
    {
        if (origin is null && source is not null && query is not null)
            return (source, null);
        if (origin is null || source is not null || query is not null)
        {
            findings.Add(
                origin is null && query is null && source is null ? FindingCodes.MissingKey : FindingCodes.WrongShape,
                record.At,
                $"The record “{name}” must say in exactly one way where it comes from.",
                "Write from: SOURCE.TABLE; or source: SOURCE and query: SELECT ….",
                expected: "from, or source with query"
            );
            return null;
        }

        var point = origin.Value.IndexOf('.');
        if (point > 0 && point < origin.Value.Length - 1)
            return (
                origin with
                {
                    Value = origin.Value[..point],
                },
                new Written(origin.Value[(point + 1)..], origin.Of(point + 1)) { IsOneRun = origin.IsOneRun }
            );
        findings.Add(
            FindingCodes.WrongShape,
            origin.At,
            $"“{origin}” does not name a table of a source.",
            "Write the source's name, a point and the table's name.",
            found: origin.Value,
            expected: "SOURCE.TABLE"
        );
        return null;
    }

    private static List<QueryParameterDefinition> ReadParameters(MappingReader record, FindingList findings)
    {
        var parameters = new List<QueryParameterDefinition>();
        if (record.Value("parameters") is not { } node || MappingReader.Of(node, "“parameters”", findings) is not { } section)
            return parameters;
        foreach (var (name, value) in section.Named)
        {
            if (value is ScalarNode { Text: { } word })
            {
                if (FieldDefinition.CheckType(word, findings))
                    parameters.Add(new QueryParameterDefinition(name, word, null));
                continue;
            }

            if (MappingReader.Of(value, $"the parameter “{name}”", findings) is not { } reader)
                continue;
            var (type, said) = (reader.RequiredText("type", "integer"), reader.Text("default"));
            if (type is not null && FieldDefinition.CheckType(type, findings))
                parameters.Add(new QueryParameterDefinition(name, type, said));
            reader.Finish();
        }

        return parameters;
    }

    private static List<FieldDefinition> ReadFields(MappingReader record, FindingList findings)
    {
        var fields = new List<FieldDefinition>();
        if (record.Value("fields") is not { } node || MappingReader.Of(node, "“fields”", findings) is not { } section)
            return fields;
        foreach (var (name, value) in section.Named)
        {
            if (MappingReader.Of(value, $"the field “{name}”", findings) is not { } field)
                continue;
            fields.Add(FieldDefinition.Read(name, field, findings));
            field.Finish();
        }

        return fields;
    }
}
