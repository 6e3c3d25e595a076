namespace Jexa.Sources.Tests;

/// <summary>A database that changes while it is swept.</summary>
public sealed class SweepChangeTests(PlantedTests.Copy copy) : IClassFixture<PlantedTests.Copy>
{
    private const string Lost = "UPDATE inspection SET bridge_id = 999999 WHERE inspection_id = 5";

    [Fact]
    public async Task What_is_repaired_meanwhile_is_no_finding_and_what_is_not_is_one()
    {
        using var demo = copy.Again();
        demo.Run(Lost);
        demo.Run(Lost.Replace("= 5", "= 6"));
        var (told, result) = await demo.SweepAsync(() => { }, "inspection");
        Assert.StartsWith("JX801 inspection.bridge_id:", Assert.Single(told), StringComparison.Ordinal);
        Assert.Equal(2, result.Faults.Single(fault => fault.Code.Id == "JX801").Count);

        var (windows, repaired) = (0, Lost.Replace("999999", "5"));
        (told, result) = await demo.SweepAsync(
            () =>
            {
                if (windows++ == 0)
                    demo.Run(repaired);
            },
            "inspection"
        );
        Assert.True(windows > 2);
        Assert.Single(told);

        windows = 0;
        (told, _) = await demo.SweepAsync(
            () =>
            {
                if (windows++ == 0)
                    demo.Run(Lost.Replace("999999", "6").Replace("= 5", "= 6"));
            },
            "inspection"
        );
        Assert.Empty(told);
        Assert.Empty(result.NotRead);
    }

    [Fact]
    public async Task Rows_that_come_go_and_move_meanwhile_are_neither_lost_nor_read_twice()
    {
        using var demo = copy.Again();
        var (_, before) = await demo.SweepAsync(() => { }, "inspection");
        var windows = 0;
        var (told, result) = await demo.SweepAsync(
            () =>
            {
                // Behind the window, ahead of it, and at the end, where the last window finds it.
                if (windows++ == 1)
                    demo.Run(
                        """
                        DELETE FROM inspection WHERE inspection_id < 100;
                        UPDATE inspection SET inspection_id = 1000000 + inspection_id WHERE inspection_id BETWEEN 100 AND 120;
                        DELETE FROM inspection WHERE inspection_id BETWEEN 1500 AND 1509;
                        """
                    );
            },
            "inspection"
        );
        Assert.Empty(told);
        // The 21 rows with a new key are met again under it; the ten ahead are gone.
        Assert.Equal(before.Parts[0].Rows + 21 - 10, result.Parts[0].Rows);
    }

    [Fact]
    public async Task A_table_that_vanishes_in_the_middle_is_told_and_the_others_are_read()
    {
        using var demo = copy.Again();
        demo.Run(Lost);
        var windows = 0;
        var (told, result) = await demo.SweepAsync(
            () =>
            {
                if (windows++ == 0)
                    demo.Run("ALTER TABLE inspection RENAME TO visit_of_old; UPDATE bridge SET lanes = lanes");
            },
            "inspection",
            "photo"
        );
        Assert.StartsWith("JX801 inspection.bridge_id:", Assert.Single(told), StringComparison.Ordinal);
        Assert.NotEmpty(result.NotRead);
        Assert.All(result.NotRead, lost => Assert.Contains("inspection", lost.Part));
        Assert.All(result.NotRead, lost =>
            Assert.True(lost is { IsChosen: false, Why: "SQLite says: no such table: inspection (code 1)." })
        );
        Assert.Contains(result.Parts, part => part.Part == "photo" && part.Rows > 0);
    }
}
