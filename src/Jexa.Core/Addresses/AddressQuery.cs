using System.Text;
using Jexa.Core.Values;

namespace Jexa.Core.Addresses;

/// <summary>Adds to the query string of an address.</summary>
internal static class AddressQuery
{
    /// <summary>An address with one more query parameter.</summary>
    public static string With(string address, string name, string value)
    {
        using var encoded = new Utf8Buffer(64);
        PercentCoding.Encode(Encoding.UTF8.GetBytes(value), encoded);
        return $"{address}{(address.Contains('?') ? '&' : '?')}{name}={encoded}";
    }

    /// <summary>An address with the rest of another address's query string at its end.</summary>
    /// <param name="rest">Percent-encoded pairs; empty for none.</param>
    public static string WithRest(string address, string rest) =>
        rest.Length == 0 ? address : $"{address}{(address.Contains('?') ? '&' : '?')}{rest}";
}
