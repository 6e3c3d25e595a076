using System.Reflection;

namespace Jexa.Service.Clients;

/// <summary>The part of generated files that is the same for every app: texts of this program (Runtime/), put together.</summary>
internal static class ClientRuntime
{
    public static string TypeScript { get; } = Joined("values.ts", "addresses.ts", "loading.ts", "watch.ts");

    public static string CSharp { get; } = Joined("Values.cs", "Addresses.cs", "Calls.cs");

    private static string Joined(params string[] names) =>
        string.Join(
            '\n',
            names.Select(name =>
            {
                using var stream = Assembly.GetExecutingAssembly().GetManifestResourceStream($"Jexa.Clients.{name}")!;
                using var reader = new StreamReader(stream);
                return OutcomeCode.Filled(reader.ReadToEnd());
            })
        );
}
