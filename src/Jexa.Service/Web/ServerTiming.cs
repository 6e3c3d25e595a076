using System.Globalization;
using Jexa.Core.Visits;

namespace Jexa.Service.Web;

/// <summary>
/// The Server-Timing header (W3C Server Timing) of a visit: its steps in milliseconds. Only for those who may see traces, because
/// the duration of a query can tell what it found.
/// </summary>
internal static class ServerTiming
{
    public static string Of(VisitTrace trace) =>
        string.Join(
            ", ",
            trace.Timings.Select(timing =>
                string.Create(CultureInfo.InvariantCulture, $"{timing.Step};dur={timing.Microseconds / 1000:0.###}")
            )
        );
}
