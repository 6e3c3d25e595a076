using System.Diagnostics;
using Jexa.Core.Addresses;
using Jexa.Service.Clients;
using Jexa.Service.Hosting;

namespace Jexa.Bench.Visits;

/// <summary>A thousand pages as typed code: how long it takes to write them, and the TypeScript compiler to check them.</summary>
internal static class Clients
{
    private const int Pages = 1000;

    public static async Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("jexa-bench-").FullName;
        try
        {
            Scale.MakeTables(Path.Combine(folder, "data.db"), Pages / 2);
            var file = Path.Combine(folder, "app.yaml");
            await File.WriteAllTextAsync(file, Scale.AppFile(Pages / 2));
            await using var sources = SourceEngines.Open();
            var clock = Stopwatch.StartNew();
            var site = (await AppFileCompiler.CompileAsync(file, sources, Mount.Root, CancellationToken.None)).Site!;
            var compiled = clock.Elapsed;
            clock.Restart();
            var typeScript = TypeScriptWriter.Write(site);
            Console.WriteLine(
                $"{Pages:N0} pages as TypeScript: {clock.Elapsed.TotalMilliseconds:N0} ms for "
                    + $"{typeScript.Length / 1024:N0} kB, after {compiled.TotalMilliseconds:N0} ms of compiling "
                    + "the app file"
            );
            clock.Restart();
            var cSharp = CSharpWriter.Write(site, "Bench");
            Console.WriteLine(
                $"{Pages:N0} pages as C#:         {clock.Elapsed.TotalMilliseconds:N0} ms for {cSharp.Length / 1024:N0} kB"
            );
            await File.WriteAllTextAsync(Path.Combine(folder, "client.ts"), typeScript);
            await File.WriteAllTextAsync(
                Path.Combine(folder, "tsconfig.json"),
                """{ "compilerOptions": { "strict": true, "noEmit": true, "target": "ES2022", "module": "ESNext", "moduleResolution": "bundler", "lib": ["ES2022", "DOM"], "types": [] }, "files": ["client.ts"] }"""
            );
            foreach (var (name, compiler) in new[] { ("5", "typescript/bin/tsc"), ("7", "ts7/bin/tsc") })
            {
                clock.Restart();
                using var check = Process.Start(
                    new ProcessStartInfo(
                        "node",
                        [Path.Combine(AppContext.BaseDirectory, "../../../../../console/node_modules", compiler), "-p", folder]
                    )
                )!;
                await check.WaitForExitAsync();
                Console.WriteLine(
                    $"type-checked by tsc {name}:    {clock.Elapsed.TotalSeconds:N1} "
                        + $"s{(check.ExitCode == 0 ? "" : ", with errors")}"
                );
            }
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }
}
