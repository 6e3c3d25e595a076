using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json;
using Jexa.Cli.Output;
using Jexa.Service.State;

namespace Jexa.Cli.Client;

/// <summary>Calls the management API of a running service, with the address and the token from its state folder.</summary>
internal sealed class ManagementClient : IDisposable
{
    /// <summary>The variable with the token of a service elsewhere: a command line is seen by others.</summary>
    public const string TokenVariable = "JEXA_TOKEN";

    private readonly HttpClient _http;

    private ManagementClient(HttpClient http, ServiceAddress service)
    {
        _http = http;
        Service = service;
    }

    public ServiceAddress Service { get; }

    /// <exception cref="CommandException">No service is known to run there.</exception>
    public static ManagementClient Open(string? stateFolder, int port)
    {
        StateFolder state;
        try
        {
            state = StateFolder.Of(stateFolder, port);
        }
        catch (IOException refused)
        {
            throw new CommandException(ExitCodes.WrongUse, refused.Message, refused);
        }

        if (state.ReadAddress() is not { } service || state.ReadToken() is not { } token)
            throw new CommandException(
                ExitCodes.CannotReach,
                stateFolder is null
                    ? $"No service is running on port {port}. Start one with jexa serve APP_FILE or jexa demo, or name "
                        + "its port or state folder."
                    : $"No service is using the state folder {stateFolder}. Start one with jexa serve APP_FILE --state "
                        + $"{stateFolder}."
            );
        return At(service, token);
    }

    /// <summary>The service whose management API is at an address, such as that of a tunnel to another machine.</summary>
    /// <exception cref="CommandException">The token is not in the environment.</exception>
    public static ManagementClient OpenAt(string api) =>
        Environment.GetEnvironmentVariable(TokenVariable) is { Length: > 0 } token
            ? At(new ServiceAddress("", api.EndsWith('/') ? api : api + "/", 0), token)
            : throw new CommandException(
                ExitCodes.WrongUse,
                $"--api needs the token of that service in the environment: {TokenVariable}."
            );

    private static ManagementClient At(ServiceAddress service, string token)
    {
        var http = new HttpClient(new SocketsHttpHandler { UseProxy = false, ConnectTimeout = TimeSpan.FromSeconds(5) })
        {
            BaseAddress = new Uri(service.ConsoleUrl),
            Timeout = TimeSpan.FromSeconds(30),
        };
        http.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", token);
        return new ManagementClient(http, service);
    }

    public Task<T> GetAsync<T>(string path, CancellationToken cancellation) =>
        SendAsync<T>(new HttpRequestMessage(HttpMethod.Get, path), cancellation);

    public Task<T> PostAsync<T>(string path, object body, CancellationToken cancellation) =>
        SendAsync<T>(
            new HttpRequestMessage(HttpMethod.Post, path) { Content = JsonContent.Create(body, body.GetType()) },
            cancellation
        );

    public void Dispose() => _http.Dispose();

    private async Task<T> SendAsync<T>(HttpRequestMessage request, CancellationToken cancellation)
    {
        try
        {
            using var response = await _http.SendAsync(request, cancellation);
            if (response.IsSuccessStatusCode)
                return (await response.Content.ReadFromJsonAsync<T>(cancellation))!;
            throw Refused((int)response.StatusCode, await response.Content.ReadAsStringAsync(cancellation));
        }
        catch (Exception lost)
            when (lost is HttpRequestException or TaskCanceledException && !cancellation.IsCancellationRequested)
        {
            throw new CommandException(
                ExitCodes.CannotReach,
                $"The service at {Service.ConsoleUrl} does not answer. Is it still running?",
                lost
            );
        }
        catch (JsonException unreadable)
        {
            throw new CommandException(
                ExitCodes.CannotReach,
                $"What answers at {Service.ConsoleUrl} is not this version of Jexa.",
                unreadable
            );
        }
    }

    private CommandException Refused(int status, string body)
    {
        string? detail = null;
        try
        {
            using var problem = JsonDocument.Parse(body);
            detail = problem.RootElement.TryGetProperty("detail", out var member) ? member.GetString() : null;
        }
        catch (JsonException)
        {
            // Not problem details: there is only the status.
        }

        return status switch
        {
            400 or 404 => new CommandException(ExitCodes.WrongUse, detail ?? $"The service answers {status}."),
            422 => new CommandException(ExitCodes.Findings, detail ?? "The service cannot do that with these values."),
            401 or 403 => new CommandException(
                ExitCodes.CannotReach,
                $"The service at {Service.ConsoleUrl} does not take the token of this state folder."
            ),
            _ => new CommandException(ExitCodes.CannotReach, detail ?? $"The service answers {status}."),
        };
    }
}
