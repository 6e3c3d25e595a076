using Jexa.Core.Endpoints;
using Jexa.Core.Values;

namespace Jexa.Sources.Http;

/// <summary>One kind of record as it is stored.</summary>
internal sealed record ApiShape(ApiEndpoint Endpoint, IReadOnlyList<(string Name, FieldType Type)> Columns)
{
    /// <summary>Whether its records have all fields of the key.</summary>
    public bool HasKey => Endpoint.Key.Count > 0 && Endpoint.Key.All(key => Columns.Any(column => column.Name == key));

    public FieldType TypeOf(string column) => Columns.FirstOrDefault(known => known.Name == column).Type;
}
