using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;

namespace Pritchel.Web.Drawings;

/// <summary>What drawings need of a job.</summary>
/// <param name="Machine">Its machine.</param>
/// <param name="Diagnosis">What its evidence comes to.</param>
public sealed record OpenJobView(Machine Machine, JobDiagnosis Diagnosis)
{
    /// <summary>Name of a probe point.</summary>
    public string PointName(int node) => Diagnosis.Kit.Points.At(node).Name;
}
