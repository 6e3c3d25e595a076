using Jexa.Core.Sites;

namespace Jexa.Service.Clients;

/// <summary>Calls of a site's pages with real samples, as a developer would write them.</summary>
internal sealed class ClientCalls(Site site)
{
    private readonly TypeScriptWriter _typeScript = new(site);
    private readonly CSharpWriter _cSharp = new(site);

    /// <param name="url">The whole URL of the sample.</param>
    /// <param name="ids">The texts of its parameters; empty for one that is left out.</param>
    public (string Curl, string TypeScript, string CSharp) Of(Page page, string url, IReadOnlyList<string> ids) =>
        ($"curl -H 'Accept: application/json' '{url}'", _typeScript.Call(page, ids), _cSharp.Call(page, ids));
}
