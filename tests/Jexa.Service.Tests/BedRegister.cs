using System.Globalization;

namespace Jexa.Service.Tests;

/// <summary>The bridges of the small applications that are audited.</summary>
internal static class BedRegister
{
    private static readonly string[] Words =
    [
        "Alder",
        "Beech",
        "Cedar",
        "Dogwood",
        "Elder",
        "Fir",
        "Gorse",
        "Hazel",
        "Ivy",
        "Juniper",
    ];

    public const int Count = 200;

    public const int Window = 20;

    /// <summary>A picture of one point.</summary>
    public static byte[] Picture { get; } =
        Convert.FromBase64String(
            "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNgYGBgAAAABQABpfZFQAAAAABJRU5ErkJggg=="
        );

    public static string NameOf(int id) =>
        $"{Words[id % 10]} {(id % 3 == 0 ? "Footbridge" : id % 3 == 1 ? "Viaduct" : "Crossing")} {Roman(id)}";

    public static string CodeOf(int id) => $"AV-{id * 37:0000}";

    public static string OpenedOn(int id) =>
        new DateOnly(1900, 1, 1).AddDays(id * 733).ToString("d MMMM yyyy", CultureInfo.InvariantCulture);

    public static string LengthOf(int id) => (12.5m + (id * 3.25m)).ToString("0.00", CultureInfo.InvariantCulture);

    public static string KeeperOf(int id) => $"{Words[id * 7 % 10]} keeper {id}";

    /// <summary>The window of the list that has a bridge; the first is 1.</summary>
    public static int WindowOf(int id) => ((id - 1) / Window) + 1;

    private static string Roman(int id) =>
        string.Concat(Enumerable.Repeat('X', id / 10))
        + new[] { "", "I", "II", "III", "IV", "V", "VI", "VII", "VIII", "IX" }[id % 10];
}
