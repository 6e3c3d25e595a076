using Serilog;
using Serilog.Events;
using Serilog.Formatting.Json;

namespace Jexa.Service.Hosting;

/// <summary>The service's log, on standard error.</summary>
internal static class ServiceLog
{
    public static Serilog.Core.Logger Open(ServiceOptions options)
    {
        var configuration = new LoggerConfiguration()
            .MinimumLevel.Is(
                options.Log switch
                {
                    LogDetail.None => LogEventLevel.Fatal,
                    LogDetail.Trouble => LogEventLevel.Warning,
                    _ => LogEventLevel.Information,
                }
            )
            .MinimumLevel.Override("Microsoft", LogEventLevel.Fatal);
        return options.LogForm == LogForm.Json
            ? configuration
                .WriteTo.Console(new JsonFormatter(renderMessage: true), standardErrorFromLevel: LogEventLevel.Verbose)
                .CreateLogger()
            : configuration
                .WriteTo.Console(
                    standardErrorFromLevel: LogEventLevel.Verbose,
                    outputTemplate: "{Timestamp:HH:mm:ss} {Level:u3} {Message:lj}{NewLine}"
                )
                .CreateLogger();
    }
}
