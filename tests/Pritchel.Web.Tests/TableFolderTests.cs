using Microsoft.Extensions.Logging.Abstractions;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Workshop;

namespace Pritchel.Web.Tests;

/// <summary>Prediction tables on disk.</summary>
public sealed class TableFolderTests : IDisposable
{
    private static readonly Lazy<(MachineVersion Machine, Duty Duty, PredictionTable Table)> Mower = new(() =>
    {
        var json = File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "machines", "hedgerow-mower-2.json"));
        var machine = MachineVersion.Compile("hedgerow-mower-2", 1, json);
        var duty = machine.Duty(new DutyId("stops-magneto-lever-0"))!;
        return (machine, duty, PredictionTable.Build(machine.Circuit, duty, []));
    });

    private readonly string folder = Directory.CreateTempSubdirectory("pritchel-tables").FullName;

    private static (MachineVersion Machine, Duty Duty, PredictionTable Table) Made => Mower.Value;

    public void Dispose() => Folders.Remove(folder);

    [Fact]
    public void A_table_read_back_gives_the_same_beliefs_to_the_last_digit()
    {
        var tables = Folder(1000);
        var key = TableFolder.KeyOf(Made.Machine, Made.Duty, [], Meter.Ordinary);
        tables.Keep(key, Made.Table);
        var read = tables.Find(key, Made.Machine.Circuit, Made.Duty, [], Meter.Ordinary)!;
        var complaint = new Complaint { Duty = Made.Duty.Id, Heard = Heard.Nothing };
        var (before, after) = (
            Beliefs.Weigh(Made.Table, complaint, Meter.Ordinary, []),
            Beliefs.Weigh(read, complaint, Meter.Ordinary, [])
        );
        Assert.Equal(before.Suspects.Select(s => (s.Id, s.Share)), after.Suspects.Select(s => (s.Id, s.Share)));
    }

    /// <summary>What is worked out of a machine's complaints and kept must come back whole, sequences and warnings too.</summary>
    [Theory]
    [InlineData("terrace-dumper-1")]
    [InlineData("ridge-twin-1")]
    public void Complaints_read_back_are_those_worked_out(string machine)
    {
        var json = File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "machines", machine + ".json"));
        var (first, second) = (
            MachineVersion.Compile(machine, 1, json, Folder(10)),
            MachineVersion.Compile(machine, 1, json, Folder(10))
        );
        Assert.Contains(first.Symptoms, s => s.Duty.OnTheWay.Count > 0);
        string Said(Symptom symptom)
        {
            var duty = symptom.Duty;
            string Stood(IReadOnlyDictionary<ControlId, PositionId>? setting) =>
                setting is null
                    ? ""
                    : string.Join(' ', setting.OrderBy(x => x.Key.Text).Select(x => $"{x.Key}={x.Value}"));
            return string.Join(
                '|',
                symptom.Group,
                duty.Id,
                duty.Name,
                duty.Load,
                duty.Control,
                duty.Speed,
                duty.Complaint,
                duty.Refuses,
                duty.Warns,
                duty.GoesOn,
                Stood(duty.Setting),
                Stood(duty.From),
                string.Join(' ', duty.OnTheWay)
            );
        }

        Assert.Equal(first.Symptoms.Select(Said), second.Symptoms.Select(Said));
    }

    [Fact]
    public void Another_meter_another_setting_or_another_drawing_is_another_table()
    {
        var own = TableFolder.KeyOf(Made.Machine, Made.Duty, [], Meter.Ordinary);
        var meter = Meter.Ordinary with { Input = new Core.Units.Ohms(1e6) };
        Assert.NotEqual(own, TableFolder.KeyOf(Made.Machine, Made.Duty, [], meter));
        Assert.NotEqual(
            own,
            TableFolder.KeyOf(Made.Machine, Made.Duty with { Speed = DutySpeed.Work }, [], Meter.Ordinary)
        );
        Assert.NotEqual(
            own,
            TableFolder.KeyOf(Made.Machine, Made.Duty, [AlterationId.Off(new WireId("1"))], Meter.Ordinary)
        );
    }

    [Theory]
    [InlineData(0)]
    [InlineData(100)]
    public void A_table_that_was_cut_short_or_written_over_is_worked_out_again(int bytes)
    {
        var tables = Folder(1000);
        var key = TableFolder.KeyOf(Made.Machine, Made.Duty, [], Meter.Ordinary);
        tables.Keep(key, Made.Table);
        var file = Directory.EnumerateFiles(folder).Single();
        File.WriteAllBytes(file, File.ReadAllBytes(file)[..bytes]);
        Assert.Null(tables.Find(key, Made.Machine.Circuit, Made.Duty, [], Meter.Ordinary));
    }

    [Theory]
    [InlineData("hedgerow-mower-2")]
    [InlineData("ridge-carrier-4")]
    public void What_a_machine_can_be_complained_of_comes_back_as_it_was(string id)
    {
        var json = File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "machines", id + ".json"));
        MachineVersion Compiled() => MachineVersion.Compile(id, 1, json, Folder(1000));
        var (made, kept) = (Compiled().Symptoms, Compiled().Symptoms);
        Assert.Single(Directory.EnumerateFiles(folder, "*.symptoms"));
        static object Told(Symptom s) =>
            (
                s.Group,
                s.Duty.Id,
                s.Duty.Name,
                s.Duty.Speed,
                s.Duty.Complaint,
                s.Duty.Refuses,
                s.Duty.Load,
                s.Duty.Control,
                string.Join(' ', s.Duty.Setting.OrderBy(p => p.Key.Text).Select(p => $"{p.Key}={p.Value}"))
            );
        Assert.Equal(made.Select(Told), kept.Select(Told));
        Assert.Contains(kept, s => s.Duty.Speed != DutySpeed.Rest);
    }

    [Fact]
    public void What_is_used_least_goes_when_there_is_no_more_room()
    {
        var tables = Folder(1);
        tables.Keep("first", Made.Table);
        var size = new FileInfo(Directory.EnumerateFiles(folder).Single()).Length;
        var fit = (int)(1024 * 1024 / size);
        for (var t = 0; t < fit + 2; t++)
        {
            tables.Keep($"table{t}", Made.Table);
        }

        Assert.False(tables.Has("first"));
        Assert.True(tables.Has($"table{fit + 1}"));
        Assert.InRange(new DirectoryInfo(folder).EnumerateFiles().Sum(f => f.Length), size, 1024 * 1024);
    }

    private TableFolder Folder(int megabytes) =>
        new(
            new WorkshopOptions(folder) { TableFolder = folder, TableMegabytes = megabytes },
            NullLogger<TableFolder>.Instance
        );
}
