using System.Text;
using Jexa.Core.Compiler;

namespace Jexa.Service.Hosting;

/// <summary>What is served as long as there is no app file: one page that says so.</summary>
public static class EmptyApp
{
    private const string Text = """
        app: Nothing yet
        home: start
        sources: {}
        records: {}
        pages:
          start:
            path: /start
            title: Nothing is served yet
            text: "There is no app file. Open the console by the URL that was printed at the start: it leads on."
            menu: hidden
        """;

    /// <summary>Compiles it. Its text is nobody's app file, and is shown to nobody.</summary>
    public static async Task<Compilation> CompileAsync(SiteCompiler compiler, string file, CancellationToken cancellation) =>
        await compiler.CompileAsync(file, Encoding.UTF8.GetBytes(Text), cancellation) with
        {
            Bytes = ReadOnlyMemory<byte>.Empty,
            Definition = null,
        };
}
