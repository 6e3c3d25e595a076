using Jexa.Core.Endpoints;
using Jexa.Core.Values;

namespace Jexa.Sources.Http;

/// <summary>One kind of record as it is kept.</summary>
internal sealed record ApiShape(ApiEndpoint Endpoint, IReadOnlyList<(string Name, FieldType Type)> Columns)
{
    /// <summary>Whether all fields of the key are among those that its records have.</summary>
    public bool HasKey => Endpoint.Key.Count > 0 && Endpoint.Key.All(key => Columns.Any(column => column.Name == key));

    public FieldType TypeOf(string column) => Columns.FirstOrDefault(known => known.Name == column).Type;
}
