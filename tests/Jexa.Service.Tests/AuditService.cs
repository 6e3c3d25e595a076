namespace Jexa.Service.Tests;

/// <summary>A service that makes audits, one after the other: most of the time of a command of its own is its start.</summary>
public sealed class AuditService : IAsyncLifetime
{
    private readonly AppFolder _folder = new();

    public RunningService Service { get; private set; } = null!;

    public async ValueTask InitializeAsync()
    {
        _folder.MakeDatabase(AppFolder.Schema);
        Service = await RunningService.StartAsync("serve", _folder.Write("app.yaml", AppFolder.App));
    }

    public ValueTask DisposeAsync()
    {
        Service.Dispose();
        _folder.Dispose();
        return ValueTask.CompletedTask;
    }
}
