namespace Jexa.Tests;

/// <summary>
/// Programs that this machine lacks and that nobody may install: <c>./test</c> names them in JEXA_LACKING, and the tests that
/// need them are left out.
/// </summary>
public static class Lacking
{
    private static readonly string[] Programs = (Environment.GetEnvironmentVariable("JEXA_LACKING") ?? "").Split(
        ' ',
        StringSplitOptions.RemoveEmptyEntries
    );

    [System.Runtime.CompilerServices.ModuleInitializer]
    internal static void Begin() => PrivateServer.Wanted = Skip;

    public static void Skip(string program) => Assert.SkipWhen(Programs.Contains(program), $"This machine has no {program}.");

    public static bool Has(string program) => !Programs.Contains(program);
}
