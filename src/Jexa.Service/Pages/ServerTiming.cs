using System.Globalization;
using System.Text;
using Jexa.Core.Visits;

namespace Jexa.Service.Pages;

/// <summary>
/// The Server-Timing header (W3C Server Timing) of a visit: its steps in milliseconds. Only for those who may see traces,
/// since how long a query took can tell what it found.
/// </summary>
internal static class ServerTiming
{
    public static string Of(VisitTrace trace)
    {
        var header = new StringBuilder();
        foreach (var step in Enum.GetValues<VisitStep>())
        {
            if (trace.Microseconds(step) is not { } microseconds) continue;
            if (header.Length > 0) header.Append(", ");
            header.Append(CultureInfo.InvariantCulture, $"{step.ToString().ToLowerInvariant()};dur={microseconds / 1000:0.###}");
        }

        return header.ToString();
    }
}
